# frozen_string_literal: true

module NimbleLetter
  module Work
    # The members of a sequence as a table: some of them, in any order, a page at a time.
    class MemberTable
      PAGE = 100
      MOST_IDS = 50_000
      # By the key of a column, what it is ordered by; those without go last, whichever way.
      ORDERS = {
        "name" => %i[last_name_fold first_name_fold],
        "company" => %i[company_fold],
        "status" => [Sequel[:members][:status]],
        "place" => [Sequel[:steps][:position]],
        "next" => [Sequel.function(:coalesce, Sequel[:next_letters][:due_at], Sequel[:members][:due_at])],
        "joined" => [Sequel[:members][:joined_at]]
      }.freeze

      # @param sequence [Records::Sequence]
      # @param asked [Hash{String=>String}] words, status, state, step_id, lane_id, waits_for, sort, descending
      def initialize(sequence, asked)
        @sequence, @asked = sequence, asked
      end

      # @param from [Integer] place of the first
      # @return [Array<Records::Member>]
      def page(from)
        ids = ordered.offset(from).limit(PAGE).select_map(Sequel[:members][:id])
        Records::Member.where(id: ids).as_hash(:id).values_at(*ids)
      end

      def total = some.count

      # @return [Array<Integer>] people, each once
      def people = some.distinct.limit(MOST_IDS).select_map(Sequel[:members][:person_id])

      private

      def some
        @some ||= begin
          found = @sequence.members_dataset
          found = found.where(Sequel[:members][:status] => @asked["status"]) if @asked["status"]
          found = state(found)
          found = found.where(Sequel[:members][:step_id] => @asked["step_id"].to_i) if @asked["step_id"]
          found = found.where(Sequel[:members][:waits_for] => @asked["waits_for"]) if @asked["waits_for"]
          found = lane(found) if @asked["lane_id"]
          words(found)
        end
      end

      def state(found)
        state = @asked["state"] or return found
        return found.where(Sequel[:members][:state] => state) unless state == "paused"

        found.where(Sequel[:members][:state] => "active").exclude(Sequel[:members][:paused_at] => nil)
      end

      def lane(found)
        taken = Records::Event.where(kind: Core::Journey::Happenings::PARTED, sequence_id: @sequence.id)
          .where(Sequel.function(:json_value, :data, "$.lane") => @asked["lane_id"].to_s)
        found.where(Sequel[:members][:id] => taken.select(:member_id))
      end

      def words(found)
        return found unless words?

        @asked["words"].split.inject(with_people(found)) do |some, word|
          like = "%#{Records.db.dataset.escape_like(Core::Fold.call(word))}%"
          columns = %i[first_name_fold last_name_fold company_fold email_fold].map { |name| Sequel[:people][name] }
          some.where(Sequel.|(*columns.map { |column| Sequel.like(column, like) }))
        end
      end

      def words? = !@asked["words"].to_s.strip.empty?

      def with_people(found) = found.join(:people, id: Sequel[:members][:person_id]).select_all(:members)

      def ordered
        columns = ORDERS.fetch(@asked["sort"] || "joined")
        down = @asked["descending"].to_s == "true"
        by = [*columns, Sequel[:members][:id]].flat_map do |column|
          [Sequel.case([[{column => nil}, 1]], 0), down ? Sequel.desc(column) : column]
        end
        with_what_orders.order(*by)
      end

      def with_what_orders
        case @asked["sort"]
        when "name", "company" then words? ? some : with_people(some)
        when "place" then some.left_join(:steps, id: Sequel[:members][:step_id])
        when "next" then some.left_join(next_letters.as(:next_letters), member_id: Sequel[:members][:id])
        else some
        end
      end

      # Once for all: asked for each member, it takes a minute where the server does not know yet how many letters are due.
      def next_letters
        due = Records::Delivery.where(sequence_id: @sequence.id, state: "due")
        due.group(:member_id).select { [:member_id, min(:due_at).as(:due_at)] }
      end
    end
  end
end
