# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # Where a member of one plan stands in a later one. Only what lies ahead changes: a step put in before the one they stand at is
      # ahead of them; from one that is gone they go on with the next of the old plan that is still there; when their lane is gone,
      # behind the fork. What they had already the machine passes by (Known#had).
      module Moving
        # @param old [Plan]
        # @param new [Plan]
        # @param place [Place] in the old one
        # @return [Place] in the new one. Who is at the end stays there, also behind what was added.
        def self.moved(old, new, place)
          id = place.step_id
          return place if id.nil? || (place.begun && new[id])

          on = heir(old, new, id)
          first = put_in(old, new, id)
          place.with(step_id: leads_to?(new, first, on) ? first : on, begun: nil)
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
