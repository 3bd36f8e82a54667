# frozen_string_literal: true

# Rules by which people join a sequence, and what the live ones have not heard of yet. What may make somebody join is noted by the
# database itself, whichever way it came about, and only while some rule listens.
Sequel.migration do
  up do
    create_table(:join_rules) do
      primary_key :id, type: :bigint
      foreign_key :sequence_id, :sequences, type: :bigint, null: false, on_delete: :cascade
      String :kind, size: 20, null: false # see Core::Journey::Joining
      column :settings, :text, null: false
      String :again, size: 10, null: false, default: "never"
      Integer :gap_days, null: false, default: 0
      TrueClass :live, null: false, default: false # somebody has switched it on
      TrueClass :now_too, null: false, default: false # those whom it was true of already, when it begins to listen
      TrueClass :listens, null: false, default: false # it is on, and its sequence under way
      String :hears, size: 24 # what it hears, see Core::Journey::Joining
      Date :asked_on # when all people were last asked
      foreign_key :account_id, :accounts, type: :bigint
      Integer :version, null: false, default: 1
      DateTime :created_at, null: false
      DateTime :updated_at, null: false
      index %i[listens hears]
    end
    create_table(:stirred) do
      primary_key :id, type: :bigint
      Bignum :person_id, null: false
      String :what, size: 8, null: false # tag, list, event, record
      Bignum :about # number of the tag, the list or the event
    end
    # Of whom a live filter is true already; whoever it begins to be true of is not among them.
    create_table(:join_matches) do
      foreign_key :rule_id, :join_rules, type: :bigint, null: false, on_delete: :cascade
      Bignum :person_id, null: false
      primary_key %i[rule_id person_id]
    end
    create_table(:join_waits) do
      foreign_key :rule_id, :join_rules, type: :bigint, null: false, on_delete: :cascade
      Bignum :person_id, null: false, index: true
      String :reason, size: 20, null: false # gap, no_mailbox
      String :fields, size: 500
      DateTime :since, null: false
      primary_key %i[rule_id person_id]
    end
    alter_table(:members) { add_column :rule_id, :bigint }

    heard = ->(*what) { "EXISTS (SELECT 1 FROM join_rules WHERE listens = 1 AND hears IN (#{what.map { |one| "'#{one}'" }.join(", ")}))" }
    note = ->(person, what, about) { "INSERT INTO stirred (person_id, what, about) VALUES (#{person}, '#{what}', #{about});" }
    # What is only moved or given back is no "gets the tag"; it may make a filter true all the same (Records::Stirred.quietly).
    got = ->(what) { "IF(@nimble_quiet = 1, 'record', '#{what}')" }
    noted = ->(what, about) { "INSERT INTO stirred (person_id, what, about) VALUES (NEW.person_id, #{got.call(what)}, #{about});" }
    trigger = ->(name, time, table, hears, act, person = nil) do
      # Whoever waits because something is missing is heard whatever a rule hears.
      waits = " OR EXISTS (SELECT 1 FROM join_waits WHERE join_waits.person_id = #{person})" if person
      run "CREATE TRIGGER stirs_#{name} AFTER #{time} ON #{table} FOR EACH ROW IF #{heard.call(*hears)}#{waits} THEN #{act} END IF"
    end
    trigger.call("tag_on", "INSERT", "people_tags", %w[tag anything], noted.call("tag", "NEW.tag_id"))
    trigger.call("tag_off", "DELETE", "people_tags", %w[anything], note.call("OLD.person_id", "record", "NULL"))
    trigger.call("list_on", "INSERT", "list_people", %w[list anything], noted.call("list", "NEW.list_id"))
    trigger.call("list_off", "DELETE", "list_people", %w[anything], note.call("OLD.person_id", "record", "NULL"))
    trigger.call("person_new", "INSERT", "people", %w[anything], note.call("NEW.id", "record", "NULL"))
    trigger.call("person", "UPDATE", "people", %w[anything], note.call("NEW.id", "record", "NULL"), "NEW.id")
    trigger.call("deal_new", "INSERT", "deals", %w[anything], note.call("NEW.person_id", "record", "NULL"), "NEW.person_id")
    trigger.call("deal", "UPDATE", "deals", %w[anything], note.call("NEW.person_id", "record", "NULL"), "NEW.person_id")
    run "CREATE TRIGGER stirs_company AFTER UPDATE ON companies FOR EACH ROW " \
        "IF #{heard.call("anything")} OR EXISTS (SELECT 1 FROM join_waits) THEN " \
        "INSERT INTO stirred (person_id, what) SELECT id, 'record' FROM people WHERE company_id = NEW.id; END IF"
    heard_event = "EXISTS (SELECT 1 FROM join_rules WHERE listens = 1 AND hears IN (NEW.kind, 'anything'))"
    run "CREATE TRIGGER stirs_event AFTER INSERT ON events FOR EACH ROW IF #{heard_event} THEN " \
        "#{note.call("NEW.person_id", "event", "NEW.id")} END IF"
  end

  down do
    %w[tag_on tag_off list_on list_off person_new person deal_new deal company event].each { |name| run "DROP TRIGGER stirs_#{name}" }
    alter_table(:members) { drop_column :rule_id }
    drop_table(:join_waits, :join_matches, :stirred, :join_rules)
  end
end
