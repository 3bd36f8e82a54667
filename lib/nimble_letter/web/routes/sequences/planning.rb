# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # What helps to lay out a plan: notes in its margin, timing as it is typed, and when a step is for one person, with why then.
      module Planning
        # What these routes share.
        module Helpers
          def note = @note ||= fetch_record(Records::PlanNote, params[:id], "note")

          def note_json(note) = PlanNoteJson.write(note)

          def date_fields
            moment.catalogue.select { |field| field.type == :date && !field.retired? && %w[person company deal].include?(field.subject) }
              .to_h { |field| [field.label.downcase, field.key] }
          end

          def stop_json(stop) = stop.to_h.merge(headline: stop.step_id && headlines[stop.step_id])

          def headlines = @headlines ||= Hash.new { |all, id| all[id] = headline(Records::Step[id]) }

          def headline(step) = step && Work::StepWords.new(step.sequence, moment).headline(step)

          def way_of(sequence, person)
            return Work::WayThrough.of_prospect(sequence, person, moment) if sequence.draft?

            member = Records::Member.newest(sequence.id, person.id) or raise NotFound.new("They are not in this sequence.")
            Work::WayThrough.of_member(member, moment)
          end
        end

        def self.registered(app)
          app.helpers Helpers
          notes(app)

          app.post "/api/timing" do
            parts = Core::Calendar::TimingText.new(fields: date_fields, today: moment.today).read(input[:text])
            json(parts.except(:date).merge({on_date: parts[:date]&.iso8601}.compact))
          end

          app.get "/api/steps/:id/when/:person_id" do
            step = fetch_record(Records::Step, params[:id], "step")
            person = fetch_record(Records::Person, params[:person_id], "person")
            stop = way_of(step.sequence, person).at_step(step.id)
            json(**stop_json(stop).compact, zone: moment.zone_of(person).identifier)
          end

          app.get "/api/sequences/:id/way/:person_id" do
            sequence = fetch_record(Records::Sequence, params[:id], "sequence")
            person = fetch_record(Records::Person, params[:person_id], "person")
            ahead = Work::WayThrough.of_prospect(sequence, person, moment).ahead
            json(ahead: ahead.map { |stop| stop_json(stop) }, zone: moment.zone_of(person).identifier)
          end

          app.get "/api/members/:id/way" do
            member = fetch_record(Records::Member, params[:id], "member")
            events = Records::Event.of_member(member).order(:occurred_at, :id).all
            past = HistoryWords.new(events, moment).entries
            ahead = (member.state == "active") ? Work::WayThrough.of_member(member, moment).ahead.map { |stop| stop_json(stop) } : []
            json(past: past, ahead: ahead, zone: moment.zone_of(member.person).identifier)
          end
        end

        def self.notes(app)
          app.post "/api/sequences/:id/notes" do
            sequence = fetch_record(Records::Sequence, params[:id], "sequence")
            json(note_json(Work::NoteOnPlan.write(sequence, input[:text], step_id: input[:step_id], moment: moment)), 201)
          end

          app.patch "/api/plan-notes/:id" do
            json(note_json(Work::NoteOnPlan.change(note, input[:text], version: input[:version], moment: moment)))
          end

          app.delete "/api/plan-notes/:id" do
            note.delete
            json({})
          end
        end
        private_class_method :notes
      end
    end
  end
end
