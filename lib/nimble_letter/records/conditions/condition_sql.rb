# frozen_string_literal: true

module NimbleLetter
  module Records
    # Reads a condition tree into SQL over `people`. Each test yields true or false and never NULL, so that "but not"
    # means the same as in memory (Core::Conditions::InMemory).
    class ConditionSql
      NEVER = Sequel.lit("FALSE")
      ALWAYS = Sequel.lit("TRUE")
      LANE = Sequel.function(:json_value, Sequel[:events][:data], "$.lane")
      Nodes = Core::Conditions::Nodes

      # @param now [Time] UTC
      # @param today [Date] the firm's
      # @param me [Integer, nil] who asks
      def initialize(now:, today:, me: nil)
        @now, @today, @me = now, today, me
        @fields = FieldSql.new(today: today, me: me)
      end

      # @param node [Object] a condition tree
      # @return [Sequel::SQL::Expression]
      def read(node)
        case node
        when Nodes::All then group(node, :AND, ALWAYS)
        when Nodes::Any then group(node, :OR, NEVER)
        when Nodes::Not then Sequel.~(Sequel.expr(read(node.part)))
        when Nodes::FieldTest then field(node)
        when Nodes::ActivityTest then activity(node)
        when Nodes::MembershipTest then membership(node)
        when Nodes::DealsTest then at_least(node.at_least, Records.db[:deals].where(read(node.where)), Sequel[:deals][:person_id])
        end
      end

      private

      def group(node, operator, none)
        parts = node.parts.map { |part| read(part) }
        (parts.size < 2) ? (parts.first || none) : Sequel::SQL::BooleanExpression.new(operator, *parts)
      end

      def field(node)
        case node.field.type
        when :tags then tags(node)
        when :lists then lists(node)
        else (node.field.table == :companies) ? company(node) : @fields.read(node)
        end
      end

      # A person without a company has no company fields.
      def company(node)
        key = Sequel[:people][:company_id]
        has = ->(test) { Sequel.&(Sequel.~(key => nil), {key => Records.db[:companies].where(test).select(:id)}) }
        (node.is == "empty") ? Sequel.~(has.call(@fields.filled(node.field))) : has.call(@fields.read(node))
      end

      def tags(node)
        worn = Records.db[:people_tags].where(Sequel[:people_tags][:person_id] => Sequel[:people][:id])
        named = ->(folds) { worn.join(:tags, id: Sequel[:people_tags][:tag_id]).where(Sequel[:tags][:name_fold] => folds) }
        held(node, worn, node.value&.map { |tag| Core::Fold.call(tag) }, named)
      end

      def lists(node)
        on = Records.db[:list_people].where(Sequel[:list_people][:person_id] => Sequel[:people][:id])
        held(node, on, node.value, ->(ids) { on.where(Sequel[:list_people][:list_id] => ids) })
      end

      # @param held [Sequel::Dataset] all that this person has of them
      # @param these [#call] values to those of them that the person has
      def held(node, held, wanted, these)
        case node.is
        when "empty" then Sequel.~(held.select(1).exists)
        when "one_of" then these.call(wanted).select(1).exists
        when "all_of" then Sequel.&(*wanted.uniq.map { |one| these.call([one]).select(1).exists })
        end
      end

      def activity(node) = at_least(node.at_least, happened(node), Sequel[:events][:person_id])

      # Finding once for all those who have enough is quicker than counting for each person.
      # @param rows [Sequel::Dataset] of anybody's
      # @param key [Sequel::SQL::Expression] whose a row is
      def at_least(times, rows, key)
        return rows.where(key => Sequel[:people][:id]).select(1).exists if times == 1

        {Sequel[:people][:id] => rows.exclude(key => nil).group(key).having { count.function.* >= times }.select(key)}
      end

      def happened(node)
        event = Sequel[:events]
        kinds = Core::Conditions::Operators::ACTIVITIES.fetch(node.kind)[:events]
        # A single one is asked for as itself: the index then stands in the order of time behind it.
        kinds = kinds.first if kinds.one?
        events = Records.db[:events].where(event[:by_machine] => false, event[:kind] => kinds).where(event[:occurred_at] <= @now)
        events = events.where(event[:occurred_at] >= node.within.instant_before(@now, @today)) if node.within
        events = events.where(event[:letter_id] => node.letter_id) if node.letter_id
        events = events.where(event[:sequence_id] => node.sequence_id) if node.sequence_id
        events = events.where(Sequel.function(:json_value, event[:data], "$.link") => node.link) if node.link
        events
      end

      def membership(node)
        member = Sequel[:members]
        members = Records.db[:members].where(member[:person_id] => Sequel[:people][:id])
        members = members.where(member[:state] => "active") if node.kind == "in" || node.step
        members = members.where(member[:sequence_id] => node.sequence_id) if node.sequence_id
        members = members.where(member[:status] => node.statuses) if node.statuses.any?
        members = members.where(member[:step_id] => Records.db[:steps].where(position: node.step - 1).select(:id)) if node.step
        members = members.where(at(node)) if node.step_id
        members = members.where(told(Core::Journey::Happenings::PARTED, LANE => node.lane_id.to_s)) if node.lane_id
        members.select(1).exists
      end

      # Stands there now, or has ever come to it.
      def at(node)
        now = {Sequel[:members][:step_id] => node.step_id}
        (node.kind == "in") ? now : Sequel.|(now, told(Core::Journey::Happenings::BEHIND, Sequel[:events][:step_id] => node.step_id))
      end

      # What the events of that membership say.
      def told(kinds, **about)
        event, member = Sequel[:events], Sequel[:members]
        Records.db[:events]
          .where(event[:sequence_id] => member[:sequence_id], event[:kind] => kinds, event[:person_id] => member[:person_id])
          .where(event[:member_id] => member[:id]).where(about).select(1).exists
      end
    end
  end
end
