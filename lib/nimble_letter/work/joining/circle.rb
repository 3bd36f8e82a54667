# frozen_string_literal: true

module NimbleLetter
  module Work
    # Whoever would join one sequence again and again within a day goes round in a circle of hand-overs, tags or fields: they are
    # set aside and shown, and join no more that day.
    class Circle
      # @param sequence [Records::Sequence] that people would join
      def initialize(sequence, moment)
        @sequence, @moment = sequence, moment
      end

      # @param ids [Array<Integer>] people
      # @return [Set<Integer>] those of them who are set aside
      def among(ids)
        circling =
          Records::Member
            .where(sequence_id: @sequence.id, person_id: ids)
            .where(Sequel[:joined_at] > @moment.now - Core::Journey::Joining::CIRCLE_SECONDS)
            .group_and_count(:person_id).having { count.function.* >= Core::Journey::Joining::CIRCLE }.select_map(:person_id)
        circling.each { |id| aside(id) }.to_set
      end

      private

      def aside(id)
        words = "#{Records::Person[id].name} joined “#{@sequence.name}” #{Core::Journey::Joining::CIRCLE} times within a day: " \
                "going round in a circle."
        PutAside.call("journey", "circle #{@sequence.id} #{id}", words, at: @moment.now)
      end
    end
  end
end
