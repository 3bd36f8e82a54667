# frozen_string_literal: true

module NimbleLetter
  module Work
    # What a change of plan would mean for those who are on the way: by what the journey says of each of them in the plan they carry and
    # in the one that is proposed, if they do nothing.
    class Reckoning
      Difference = Core::Journey::Difference
      KINDS = Difference::KINDS
      SLICE = 1000

      # @param sequence [Records::Sequence]
      # @param plan [Core::Journey::Plan] as it would be
      # @param reworded [Array<Integer>] letters that are written otherwise by now
      def initialize(sequence, plan, moment, reworded: [])
        @sequence, @plan, @moment, @reworded = sequence, plan, moment, reworded
      end

      # @return [Hash{String=>Integer}] people by KINDS
      def counts = KINDS.to_h { |kind| [kind, people.fetch(kind, []).size] }

      # @return [Hash{String=>Array<Integer>}] numbers of people
      def people
        @people ||= begin
          ids = @sequence.members_dataset.active.order(:id).select_map(:id)
          ids.each_slice(SLICE).flat_map { |some| judged(Records::Member.where(id: some).order(:id).all) }
            .group_by(&:first).transform_values { |pairs| pairs.map(&:last) }
        end
      end

      private

      def judged(members)
        same, members = @reworded.any? ? [[], members] : members.partition { |member| same_ahead?(member) }
        same.map { |member| ["untouched", member.person_id] } + walked(members)
      end

      # Nobody need be walked through two plans that are one from where they stand on.
      def same_ahead?(member)
        return false unless member.step_id && @plan[member.step_id]

        (@same_ahead ||= {})[[member.plan, member.step_id]] ||= begin
          old = @moment.plan_of(@sequence.id, member.plan)
          ahead = [old, @plan].map { |plan| told(plan).values_at("leaving", *plan.possibly(member.step_id)) }
          (ahead.uniq.size == 1) ? :same : :other
        end
        @same_ahead[[member.plan, member.step_id]] == :same
      end

      # @return [Hash] each step as it is said, and what takes people out
      def told(plan)
        (@told ||= {}.compare_by_identity)[plan] ||= begin
          json = Core::Journey::PlanJson.write(plan)
          {"leaving" => json.except("steps", "number"), **by_id(json["steps"])}
        end
      end

      def by_id(steps)
        steps.flat_map { |step| [[step["id"], step], *(step["lanes"] || []).flat_map { |lane| by_id(lane["steps"]).to_a }] }.to_h
      end

      def walked(members)
        people = Records::Person.where(id: members.map(&:person_id)).as_hash(:id)
        before = Ahead.new(@sequence, @moment, of: :steps).call(members, people)
        members.group_by(&:plan).flat_map do |number, some|
          old = @moment.plan_of(@sequence.id, number)
          known = Knowing.new(@plan, @moment).of_members(some, people, all: true, heard: true)
          some.map { |member| [kind(old, member, before.fetch(member.id), after(old, member, known[member.id])), member.person_id] }
        end
      end

      # @return [Hash{Integer=>Time}] by step, in the proposed plan
      def after(old, member, known)
        place = Core::Journey::Moving.moved(old, @plan, member.place)
        @moment.ways(@plan).steps(known, place, [place.base, @moment.now].max).to_h { |step, at| [step.id, at] }
      end

      def kind(old, member, before, after)
        return "lane_gone" if Difference.lane_gone?(old, @plan, member.step_id)

        Difference.between(before, after, reworded: reworded_steps)
      end

      # Of two versions of a step, whoever gets the other is counted as well.
      def reworded_steps = @reworded_steps ||= (@reworded.any? ? Records::Step.sending(@reworded).select_map(:id) : [])
    end
  end
end
