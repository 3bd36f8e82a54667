# frozen_string_literal: true

module NimbleLetter
  module Work
    # Where everybody stands with each step of a sequence. Always, for each step: planned = sent + failed + skipped + in doubt + due,
    # and whoever may still come to it by a lane is counted apart (`may`): planned and may together are all members.
    # Only a member's next letter is written down; who is on the way to a later step is read from where they stand.
    # What is no letter is "sent" when it is done.
    class Accounting
      FIGURES = %w[planned sent failed skipped in_doubt due may].freeze
      STATES = {"sent" => %w[sent], "failed" => %w[failed], "in_doubt" => %w[in_doubt], "open" => Records::Delivery::STILL_DUE}.freeze
      # What says that a step is behind somebody who has done it.
      DONE = {"fork" => Core::Journey::Happenings::PARTED}.tap { |kinds| kinds.default = "step_done" }.freeze

      def initialize(sequence) = @sequence = sequence

      # @param step [Records::Step]
      # @return [Hash{String=>Integer}] FIGURES, and "here": who stands before it now
      def of(step)
        return of_those_who_had(step) if step.out_at

        counts = by_state(step)
        open = counts.delete("open")
        counts["sent"] = done.fetch([step.id, DONE[step.kind]], 0) unless step.letter?
        counts["may"] = to_come(step, :may)
        counts["planned"] = members.values.sum - counts["may"]
        counts["due"] = open + to_come(step, :certain) + without_letter(step)
        counts["skipped"] = counts["planned"] - counts.values_at("sent", "failed", "in_doubt", "due").sum
        counts.slice(*FIGURES).merge("here" => active_at(at(step)))
      end

      # @return [Array<Records::Step>] of the plan as it is, and behind them those that were taken out when some had had them
      def letter_steps = @letter_steps ||= @sequence.letter_steps + taken_out

      # @return [Hash{Array(Integer, String)=>Integer}] letters by step, and what LetterCounts says of them
      def letters = @letters ||= LetterCounts.of(Records::Delivery.where(sequence_id: @sequence.id), by: :step_id)

      # @param lane_id [Integer]
      # @return [Integer] members who took it
      def took(lane_id) = lanes.fetch(lane_id, 0)

      # @param figure [String] of FIGURES
      # @param step_id [Integer, nil] nil: of any letter
      # @return [Sequel::Dataset] of people
      def people_of(figure, step_id: nil)
        chosen = step_id ? (@sequence.steps | taken_out).select { |step| step.id == step_id } : letter_steps
        if STATES.key?(figure) && chosen.all?(&:letter?)
          return Records::Person.where(Sequel[:people][:id] => written(chosen, STATES[figure]).select(:person_id))
        end

        # Put together before people are looked for, each of whom would be looked for in every step.
        who = chosen.flat_map { |step| whose(figure, step) }.inject { |all, some| all.union(some, from_self: false) }
        Records::Person.where(who ? {Sequel[:people][:id] => who.from_self.naked} : false)
      end

      # @return [Sequel::Dataset] of members who will come to it for certain, or have its letter written down and not out
      def on_the_way(step)
        open = written(step, STATES["open"]).select(:member_id)
        all.active.where(Sequel.|({id: open}, {id: coming(step, :certain).select(:id)}, {id: waiting(step).select(:id)}))
      end

      # @return [Sequel::Dataset] of members who may come to it by a lane
      def may_come(step) = coming(step, :may)

      private

      def taken_out
        @taken_out ||= begin
          had = letters.filter_map { |(id, state), _| id unless state == "skipped" }
          Records::Step.letters.where(sequence_id: @sequence.id, id: had).exclude(out_at: nil).order(:id).all
        end
      end

      # @return [Hash{String=>Integer}] letters of a step by the keys of STATES
      def by_state(step) = STATES.transform_values { |states| states.sum { |state| letters[[step.id, state]] } }

      # Nobody comes to a step any more that was taken out; it was only planned for those who had it.
      def of_those_who_had(step)
        counts = by_state(step)
        {"planned" => counts.values.sum, **counts.except("open"), "skipped" => 0, "due" => counts["open"], "may" => 0, "here" => 0}
      end

      # Places are by plan: [number, step_id], as members keep them.
      # @return [Array<Array(Integer, Integer)>] from which members come to a step for certain (:certain), or perhaps (:may)
      def before(step, how) = ways.fetch([step.id, how], [])

      # @return [Hash{Array(Integer, Symbol)=>Array<Array(Integer, Integer)>}] by the step they lead to, and how
      def ways
        @ways ||= plans.each_with_object({}) do |(number, plan), ways|
          plan.all.map(&:id).each do |id|
            certain = plan.certainly(id).to_set
            (certain | plan.possibly(id)).each do |to|
              (ways[[to, certain.include?(to) ? :certain : :may]] ||= []) << [number, id] unless to == id
            end
          end
        end
      end

      def at(step) = plans.keys.map { |number| [number, step.id] }

      # @return [Hash{Integer=>Core::Journey::Plan}] by number
      def plans
        @plans ||= @sequence.draft? ? {1 => @sequence.laid_out} : @sequence.plans.to_h { |plan| [plan.number, plan.to_core] }
      end

      # @return [Hash{Array(Integer, String)=>Integer}] members by step and what says it is done
      def done =
        @done ||= said(%w[step_done lane_taken]).group(:step_id, :kind)
          .select_hash(%i[step_id kind], Sequel.function(:count, :member_id).distinct.as(:count))

      # @return [Hash{Integer=>Integer}] members by the lane they took
      def lanes
        lane = Sequel.function(:json_value, :data, "$.lane")
        @lanes ||= said("lane_taken").group(lane).select_hash(lane.as(:lane), Sequel.function(:count, :member_id).distinct.as(:count))
          .transform_keys(&:to_i)
      end

      def said(kinds) = Records::Event.where(sequence_id: @sequence.id, kind: kinds)

      # @return [Hash{Array(Integer, Integer, String)=>Integer}] by plan, the step they stand before, and state
      def members = @members ||= places.to_h { |row| [row.values_at(:plan, :step_id, :state), row[:count]] }

      def places = @places ||= all.naked.group_and_count(:plan, :step_id, :state).select_append { max(:moved).as(:moved) }.all

      # @param how [Symbol] see #before
      def to_come(step, how) = active_at(before(step, how)) - (moved? ? back(step, how).count : 0)

      # @return [Sequel::Dataset] members
      def coming(step, how)
        coming = all.active.where(standing(before(step, how)))
        moved? ? coming.exclude(id: back(step, how).select(:id)) : coming
      end

      # Whoever was moved back by hand behind what they had does not get it twice.
      def back(step, how) = all.active.where(moved: true).where(standing(before(step, how))).where(id: had(step))

      def moved? = places.any? { |row| row[:moved] }

      def had(step) =
        step.letter? ? written(step).select(:member_id) : said(DONE[step.kind]).where(step_id: step.id).select(:member_id)

      def active_at(places) = places.sum { |number, id| members.fetch([number, id, "active"], 0) }

      # Those who stand before a step whose letter has no time yet.
      def without_letter(step) = (active_at(at(step)) > 0) ? waiting(step).count : 0

      def all = Records::Member.where(sequence_id: @sequence.id)

      def waiting(step) = all.active.where(step_id: step.id).exclude(id: had(step))

      def standing(places) = {%i[plan step_id] => places}

      # @param steps [Records::Step, Array<Records::Step>]
      def written(steps, states = STATES.values.flatten)
        Records::Delivery.where(sequence_id: @sequence.id, step_id: Array(steps).map(&:id), state: states)
      end

      # @return [Array<Sequel::Dataset>] numbers of people
      def whose(figure, step)
        return had_before(figure, step) if step.out_at

        case figure
        when "may" then [coming(step, :may).select(:person_id)]
        when "planned" then [all.exclude(id: coming(step, :may).select(:id)).select(:person_id)]
        when "due" then [written(step, STATES["open"]).select(:person_id), on_the_way(step).select(:person_id)]
        when "skipped" then [skipped(step).select(:person_id)]
        else [done_by(figure, step).select(:person_id)]
        end
      end

      def had_before(figure, step)
        case figure
        when "may", "skipped" then []
        when "planned" then [written(step).select(:person_id)]
        else [written(step, STATES.fetch((figure == "due") ? "open" : figure)).select(:person_id)]
        end
      end

      def done_by(figure, step)
        return written(step, STATES.fetch(figure)) if step.letter? || figure != "sent"

        said(DONE[step.kind]).where(step_id: step.id)
      end

      def skipped(step)
        to_come = all.active.where(standing([*before(step, :certain), *before(step, :may), *at(step)]))
        all.exclude(id: had(step)).exclude(id: to_come.select(:id))
      end
    end
  end
end
