# frozen_string_literal: true

# What goes out comes back as it was: own exports, taken into a firm that has none of it.
RSpec.describe "an export that is brought in again", :own_fields do
  around { |example| Dir.mktmpdir { |folder| (@folder = folder) && example.run } }

  let(:maren) { make_account }
  let(:at) { moment(account: maren) }
  # Every field that can be written.
  let(:columns) do
    Core::Importing::Targets.all(Records::FieldCatalogue.current).map { |field|
      (field.key == "person.company") ? "company.name" : field.key
    }
      .select { |key| Records::FieldCatalogue.current[key]&.for?(:column) }
  end
  let(:odd) {
    ["=1+1", "two  spaces", "'=2", "''@x", "-3+cmd", "two, words; and | more", "say \"so\"", "Ångström", "\\n, back\\slash",
      "+44 1632 960 101"]
  }

  before do
    make_own_fields
    company = make_company("Salt; Grass, & Co", type: "school", city: "Whitby", website: "https://salt.example/a,b", country: "England")
    odd.each_with_index do |text, n|
      person =
        make_person(
          title: "Dr.", first_name: text, last_name: "Lark #{n}", known_as: text, email: "p#{n}@salt.example", phone: "01632 960 10#{n}",
          mobile: "+44 7700 90010#{n}", city: text, region: text, country: "England", job_title: text, language: "cy",
          time_zone: "Europe/London", birthday: [Date.new(1980, 2, 29), Core::Fields::Yearless.parse("--0229")][n % 2],
          fitted_on: Date.new(2020, 1, 2 + n), owner_id: maren.id, company_id: company.id, consent: %w[yes no unknown][n % 3],
          consent_on: ((n % 3 == 2) ? nil : Date.new(2025, 3, 4)),
          consent_how: text, standing: %w[lead client partner][n % 3], name_order: "family_first"
        )
      own_values(person, n)
      [text, "press"].each { |tag| person.add_tag(Records::Tag.named(tag)) }
      Records::PersonAddress.create(person_id: person.id, email: "further#{n}@salt.example")
      Records::PersonAddress.create(person_id: person.id, email: "second#{n}@salt.example") if n.even?
      say_no(person, n)
      list = Records::List.first(name: text) || Records::List.create(name: text, created_at: now, updated_at: now)
      person.add_list(list)
    end
  end

  # A no of every kind: on the record, failed, the address and the domain on the list, and on another record with that address.
  def say_no(person, n)
    case n
    when 0 then Work::Happening.call("unsubscribed", at: now, person_id: person.id)
    when 1 then Work::Happening.call("bounced", at: now, person_id: person.id)
    when 2 then Work::BlockAddress.put(kind: "address", value: person.email, reason: "asked", moment: at)
    when 3 then make_person(email: person.email, do_not_mail: true, deleted_at: now) && Work::NoAtAddress.follow([person.email], at)
    end
  end

  def own_values(person, n)
    values = {"text" => "#{odd[n]} x", "number" => BigDecimal("1234.#{n}23"), "money" => 123_450 + n, "date" => Date.new(2024, 2, 29),
              "flag" => n.even?, "long_text" => "#{odd[n]}\nand\tmore  twice\n\n  - end", "link" => "https://a.example/?q=#{n};b"}
    own = Records::FieldCatalogue.current.select { |field| field.custom? && field.table == :people }
    columns = own.to_h do |field|
      value = case field.type
      when :choice then field.choices.keys[n % field.choices.size]
      when :choices then Records::SeveralChoices.write(field.choices.keys.first(1 + n % 2))
      else values[field.type.to_s]
      end
      [field.column, value]
    end
    folds = own.select(&:folded?).to_h { |field| [field.compared_column, Core::Fold.call(columns[field.column])] }
    Records.db[:people].where(id: person.id).update(columns.merge(folds))
  end

  # All that can be written of everybody, by address.
  def held
    Records::Person.kept.order(:email).to_h { |person| [person.email, everything(person)] }
  end

  def everything(person)
    Work::PersonCells.new([person], columns, for_file: true).of(person).transform_values do |cell|
      (cell.is_a?(String) && cell.include?("; ")) ? cell.split("; ").sort : cell
    end
  end

  def exported(format)
    Work::ExportPeople.new(Records::Person.kept, format: format, moment: at, columns: (format == "vcard") ? [] : columns).file.read
  end

  def empty
    %i[list_people people_tags person_addresses import_rows import_slices change_entries].each { |table| Records.db[table].delete }
    Records.db[:imports].delete
    %i[change_sets events people companies tags lists blocked_addresses].each { |table| Records.db[table].delete }
  rescue Sequel::DatabaseError
    # Events cannot be taken away; nobody asks for theirs here.
    %i[people companies tags lists blocked_addresses].each { |table| Records.db[table].delete }
  end

  def bring(text)
    receiving = Work::ReceiveImport.new(@folder, at)
    import = receiving.receive(StringIO.new(text), name: "people")
    matching = receiving.columns(import).map { |column| column[:field] }
    Work::StartImport.check(import, matching, {}, version: import.version, folder: @folder, moment: at)
    clerk = Work::Clerk.new(@folder, Records::Owner.new(configuration))
    clerk.finish(now)
    Work::StartImport.take(import.refresh, {}, version: import.version, moment: at)
    clerk.finish(now)
    import.refresh
  end

  %w[csv xlsx vcard].each do |format|
    it "is the same, as #{format}: every field that can be written, several tags, marks and apostrophes" do
      before, file = held, exported(format)
      empty
      import = bring(file)

      expect(import.counts).to eq("new" => odd.size), import.problem.to_s
      # Where the record that said no is not in the file, the address is on the list afterwards.
      before["p3@salt.example"].merge!("person.address_blocked" => "yes", "person.no_at_address" => nil)
      before.each { |email, values| expect(held[email]).to eq(values) }
      expect([held.keys, Work::SweepNoes.slipped, Work::SweepNoes.stale]).to eq([before.keys, [], []])
      Work::TakeBack.start(import.change_set, moment: at)
      expect(Records::BlockedAddress.count).to eq(0)
    end

    it "changes nothing where all of it is there already, as #{format}" do
      expect(bring(exported(format)).counts).to eq("same" => odd.size)
    end
  end
end
