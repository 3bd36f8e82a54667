# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # Where a member of one plan stands in a later one. Only what lies ahead changes: a step inserted right before the one they stand
      # before is ahead of them, unless the plan says that only people who arrive later get it; if their step was removed, they go on
      # with the next step of the old plan that still exists; if their lane was removed, they go on behind the fork. The machine skips
      # what they had already (Known#had).
      module Moving
        # @param old [Plan]
        # @param new [Plan]
        # @param place [Place] in the old one
        # @param at_work [Boolean] whether their step is under way (a task waits for its outcome, a letter for its server or for
        #   somebody's decision); it is finished before anything new comes
        # @param only_later [Boolean] whether inserted steps are only for people who arrive later
        # @return [Place] in the new one. A member behind the last step stays there, even if steps were added.
        def self.moved(old, new, place, at_work: !place.begun.nil?, only_later: false)
          id = place.step_id
          return place if id.nil? || (at_work && new[id])

          on = heir(old, new, id)
          first = put_in(old, new, id)
          return place.with(step_id: on, begun: nil) unless leads_to?(new, first, on)

          # What is new is passed by; what was only moved here from further on is not.
          place.with(step_id: only_later ? known_first(old, new, first, on) : first, begun: nil)
        end

        # @return [Integer, nil] the step itself, or the next one that is still there
        def self.heir(old, new, id)
          id = old.following(id) until id.nil? || new[id]
          id
        end
        private_class_method :heir

        # @return [Integer, nil] what comes now behind what was before that step
        def self.put_in(old, new, id)
          before = old.leading(id)
          before = back(old, before) until before.nil? || there?(new, before)
          case before
          when nil then new.steps.first&.id
          when Steps::Lane then new.lane(before.id).steps.first&.id
          else new.following(before)
          end
        end
        private_class_method :put_in

        # @return [Integer, nil] the first step from there on that the old plan had, at the latest the one they go on with
        def self.known_first(old, new, first, on)
          first = new.following(first) until first == on || old[first]
          first
        end
        private_class_method :known_first

        def self.back(plan, before) = before.is_a?(Steps::Lane) ? plan.fork_with(before.id) : plan.leading(before)
        private_class_method :back

        def self.there?(new, before) = !(before.is_a?(Steps::Lane) ? new.lane(before.id) : new[before]).nil?
        private_class_method :there?

        def self.leads_to?(plan, from, to)
          from = plan.following(from) until from.nil? || from == to
          from == to
        end
        private_class_method :leads_to?
      end
    end
  end
end
