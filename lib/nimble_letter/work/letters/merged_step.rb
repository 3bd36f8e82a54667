# frozen_string_literal: true

module NimbleLetter
  module Work
    # Everybody's letter of one step, each in the version that is theirs.
    class MergedStep
      SLICE = 1000 # people whose facts are in memory at once

      # @param step [Records::Step]
      def initialize(step, moment)
        @step, @moment = step, moment
        @unanswered = {}
      end

      # @return [Hash{Integer=>String}] by person, why an outside service had nothing to say; filled by #call
      attr_reader :unanswered

      # @param entries [Array<Array(Records::Person, Records::Mailbox, String)>] person, mailbox and version (nil: only one)
      # @return [Hash{Integer=>Core::Letters::Merged}] by person
      def call(entries)
        entries.group_by(&:last).each_with_object({}) do |(version, alike), merged|
          letter, subject = @moment.letter_of(@step, version), @step.subject_of(version)
          alike.each_slice(SLICE) do |some|
            merging = Merging.new(letter, some.map(&:first), @moment, step: @step, subject: subject)
            some.each { |person, mailbox, _| merged[person.id] = merging.call(person, mailbox) }
            @unanswered.merge!(merging.unanswered)
          end
        end
      end
    end
  end
end
