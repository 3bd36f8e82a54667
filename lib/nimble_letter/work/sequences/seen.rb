# frozen_string_literal: true

require "digest"

module NimbleLetter
  module Work
    # A digest of what decides who would get which letter and what is missing in it, so that what was looked at once need not be
    # looked at again while it is the same. What happens to people meanwhile (an opening that a passage asks about) is not in it: a
    # letter that gets a gap by that is set aside when it is to go.
    class Seen
      SLICE = 5000
      OF_RECORDS = Sequel.lit("BIT_XOR(CRC32(CONCAT_WS('/', people.id, people.version, companies.id, companies.version)))")
      OF_DEALS = Sequel.lit("BIT_XOR(CRC32(CONCAT_WS('/', id, version)))")

      # @param sequence [Records::Sequence]
      # @param ids [Array<Integer>] who would get it
      def initialize(sequence, ids)
        @sequence, @ids = sequence, ids
      end

      # @param found [Integer] what looking came to: who says another number has not looked
      # @return [String]
      def digest(found) = Digest::SHA256.hexdigest(JSON.generate([@sequence.id, @sequence.version, @ids, firm, letters, records, found]))

      private

      def firm = [Records.db[:settings].where(key: Records::Firm::KEY).get(:value), Records::CustomField.order(:id).map(&:values),
        Records::Mailbox.order(:id).map { |box| box.values.slice(:id, :address, :name, :proved_at, :account_id, :daily_limit) }]

      def letters
        ids = @sequence.letter_steps.flat_map { |step| %w[a b].filter_map { |version| step.letter_of(version)&.id } }.uniq
        steps = @sequence.letter_steps.map(&:id)
        written = [Records::PersonalLine, Records::LetterFill].map do |kind|
          kind.where(step_id: steps, member_id: Records::OfMembership::BEFORE_JOINING).map { |one| one.values.sort }
        end
        [Records::Letter.where(id: ids).select_order_map(%i[id version]), Records::Passage.select_order_map(%i[id version]), written]
      end

      def records
        @ids.each_slice(SLICE).map do |some|
          people = Records.db[:people].left_join(:companies, id: Sequel[:people][:company_id]).where(Sequel[:people][:id] => some)
          [people.get(OF_RECORDS), Records.db[:deals].where(person_id: some).get(OF_DEALS)]
        end
      end
    end
  end
end
