# frozen_string_literal: true

module NimbleLetter
  module Work
    # What somebody writes into one person's letter of one step: a line of their own, or a value for a gap.
    class WriteIntoLetter
      MOST = 4000 # characters of a line

      # @param step [Records::Step]
      # @param person [Records::Person]
      def initialize(step, person, moment)
        @step, @person, @moment = step, person, moment
      end

      # @param line [String, nil] an empty one takes it away
      # @param after [String, nil] words of the block it stands after, see Stack#letter; nil for after the first
      # @raise [Invalid] once the letter is out
      def line(line, after: nil)
        refuse_if_out!
        line = line.to_s.strip
        raise Invalid.new("A line of one's own may have #{MOST} characters.", at: "line") if line.length > MOST

        lines = Records.db[:personal_lines]
        if line.empty? then lines.where(whose).delete
        else
          lines.on_duplicate_key_update(:line, :after, :account_id, :updated_at).insert(
            **whose,
            line: line,
            after: after&.slice(0, 500),
            account_id: @moment.account&.id,
            updated_at: @moment.now
          )
        end
      end

      # @param field [String] key
      # @param value [String, nil] only for this letter; an empty one takes it away
      # @raise [Invalid]
      def fill(field, value)
        refuse_if_out!
        raise Invalid.new("There is no field #{field.inspect} to fill.", at: "field") unless @moment.catalogue[field]&.for?(:merge)

        value = Core::Letters::Values.clean(value)
        fills = Records.db[:letter_fills]
        return fills.where(whose).where(field: field).delete unless value

        fills.on_duplicate_key_update(:value, :account_id, :updated_at).insert(
          **whose,
          field: field,
          value: value[0, 500],
          account_id: @moment.account&.id,
          updated_at: @moment.now
        )
      end

      private

      # Of the round they are in.
      def member = Records::Member.newest(@step.sequence_id, @person.id)

      def whose =
        {step_id: @step.id, person_id: @person.id, member_id: member&.id || Records::OfMembership::BEFORE_JOINING}

      def refuse_if_out!
        member = member() or return
        theirs = Records::Delivery.where(step_id: @step.id, member_id: member.id)
        out = theirs.exclude(state: Records::Delivery::CALLED_BACK).exclude(id: theirs.set_aside.select(:id)).any?
        raise Invalid.new("This letter is out already.", code: :already_out) if out
      end
    end
  end
end
