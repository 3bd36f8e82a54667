# frozen_string_literal: true

module NimbleLetter
  module Work
    # The people a letter is written for, as far as that is known: those of the sequence it is in, or else everybody who has an
    # address. Says how many of them lack a field, or see one side of a passage.
    class LetterAudience
      # @param sequence_id [Integer, nil] the sequence it is looked at for, where one is
      def initialize(letter, moment, sequence_id: nil)
        @letter, @moment, @sequence_id = letter, moment, sequence_id
      end

      # @return [Records::Sequence, nil] the one it is looked at for, else the newest under way
      def sequence
        return @sequence if defined?(@sequence)

        among = Records::Sequence.where(state: %w[draft running paused], id: Records::Step.sending(@letter.id).select(:sequence_id))
        this_one = Sequel.expr(id: @sequence_id.to_i)
        @sequence = among.order(Sequel.desc(this_one), Sequel.desc(:updated_at)).all
          .find { |one| !one.draft? || audience_of(one)&.said? }
      end

      # @return [String]
      def words = sequence ? "the people of “#{sequence.name}”" : "everybody with an address"

      # @return [Sequel::Dataset]
      def people = @people ||= (sequence && people_of(sequence)) || Records::Person.kept.exclude(email: nil)

      def total = @total ||= of_draft&.size || people.count

      # @param person [Records::Person]
      # @return [Hash] at: which of them that person is, from 1, as one goes through them; nil: it is written for others. of: how many
      #   there are
      def place_of(person)
        {at: of_draft ? place_among(of_draft, person.id) : place_in_table(person.id), of: total}
      end

      # @param key [String] of a field
      # @return [Sequel::Dataset, nil] people for whom it is empty; nil when that cannot be known beforehand
      def without(key) = empty(key)&.then { |condition| seeing(condition) }

      # @return [Hash{String=>Array(Integer, Boolean)}] by field key: people whose letter has that gap, and whether they may be
      #   fewer because a passage depends on the day
      def gaps = lacking.to_h { |key, (_, at_most)| [key, [with_gap_of(key).count, at_most]] }.reject { |_, (people, _)| people.zero? }

      # @param key [String] of a field
      # @return [Sequel::Dataset, nil] people whose letter has that gap
      def with_gap_of(key) = lacking[key]&.then { |condition, _| seeing(condition) }

      # @return [Sequel::Dataset, nil] people whose letter has a gap; nil when it can have none
      def with_gap
        conditions = lacking.values.map(&:first)
        people.where(@moment.sql.read(@moment.parser.parse!({"any" => conditions}))) if conditions.any?
      end

      # @param condition [Hash]
      # @return [Sequel::Dataset, nil] people for whom it holds; nil when it depends on the day
      def seeing(condition) = @moment.parser.parse(condition)&.then { |tree| people.where(@moment.sql.read(tree)) }

      # The people behind a number that a letter's editor shows.
      # @param asked [Hash{Symbol=>Object}] one of without: (a field's key), gap: (a field's key), seeing: (a condition), and for
      #   the last others: true for those who read the other side
      # @return [Sequel::Dataset]
      # @raise [Invalid] when nobody can know them beforehand
      def behind(asked)
        found = if asked[:gap] then with_gap_of(asked[:gap])
        elsif asked[:without] then without(asked[:without])
        elsif asked[:seeing] then seeing(asked[:others] ? {"not" => asked[:seeing]} : asked[:seeing])
        end
        found || raise(Invalid.new("Who that is depends on the day.", code: :not_known_yet, hint: "Look at the letters of the step."))
      end

      # @param asked [Hash{Symbol=>Object}] see #behind
      # @return [Hash, nil] a condition that may give the same people
      def condition_behind(asked)
        test = if asked[:gap] then lacking[asked[:gap]]&.first
        elsif asked[:without] then empty(asked[:without])
        else asked[:others] ? {"not" => asked[:seeing]} : asked[:seeing]
        end
        among = readers
        {"all" => [among, test]} if among && test
      end

      private

      # The condition of the people it is written for, as far as one can say it.
      def readers
        return {"not" => {"field" => "person.email", "is" => "empty"}} unless sequence
        return {"membership" => "in", "sequence_id" => sequence.id} unless sequence.draft?

        audience = @moment.audience(sequence.audience)
        @moment.sieving(audience).condition_of("would_get_it", audience.condition)
      end

      def of_letter = @of_letter ||= Lacking.new(@letter.documents, @moment, for_deal: @letter.for_deal?)

      def lacking = of_letter.by_field

      def empty(key) = of_letter.empty(key)

      def people_of(sequence)
        Records::Person.where(id: of_draft || sequence.members_dataset.where(state: "active").select(:person_id))
      end

      # @return [Array<Integer>, nil] people who would get it, in the order of their records; nil where it is for others
      def of_draft
        return @of_draft if defined?(@of_draft)

        @of_draft = sequence&.draft? ? @moment.sieving(audience_of(sequence)).would_get_it : nil
      end

      def place_among(ids, id)
        at = ids.bsearch_index { |other| other >= id }
        at + 1 if at && ids[at] == id
      end

      def place_in_table(id)
        at, last = people.where { |person| person.id <= id }.get { [count(:id).as(:at), max(:id).as(:last)] }
        at if last == id
      end

      # @return [Records::Audience, nil] of a draft
      def audience_of(sequence)
        @moment.audience(sequence.audience)
      rescue NotFound
        nil # its filter is gone; the ready check tells of it
      end
    end
  end
end
