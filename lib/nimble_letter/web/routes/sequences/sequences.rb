# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/sequences: plan, ready check, start and moves
      module Sequences
        def self.registered(app)
          app.get "/api/sequences" do
            json(sequences: SequenceRows.write(Records::Sequence.order(Sequel.desc(:updated_at), Sequel.desc(:id)).all))
          end

          app.post "/api/sequences" do
            made = Work::PlanSequence.make(name: input[:name], audience: input[:audience], letter: input[:letter], moment: moment)
            json(SequenceJson.new(made, moment).write, 201)
          end

          app.get "/api/sequences/:id" do
            json(SequenceJson.new(fetch_record(Records::Sequence, params[:id], "sequence"), moment).write)
          end

          app.patch "/api/sequences/:id" do
            sequence = Work::PlanSequence.change(fetch_record(Records::Sequence, params[:id], "sequence"), input, moment: moment)
            json(SequenceJson.new(sequence, moment).write)
          end

          app.get "/api/sequences/:id/ready" do
            json(Work::ReadyCheck.new(fetch_record(Records::Sequence, params[:id], "sequence"), moment).call)
          end

          app.get "/api/sequences/:id/ready/people" do
            ready = Work::ReadyCheck.new(fetch_record(Records::Sequence, params[:id], "sequence"), moment)
            outlook = ready.outlook
            outlook or raise Invalid.new("Nobody would get anything yet.", at: "sequence", hint: "Say whom it is for, and what.")
            people =
              if params["joining"].to_s == "true" then Records::Person.where(id: ready.joining)
              elsif params["keeps"] then Records::Person.where(id: ready.kept(params["keeps"]))
              elsif params["never"] then Records::Person.where(id: ready.never(params["never"].to_i))
              else outlook.people_from(params["mailbox_id"]&.to_i)
              end
            json(PersonRows.page(people, moment: moment, cursor: params["cursor"]))
          end

          app.post "/api/sequences/:id/start" do
            sequence = fetch_record(Records::Sequence, params[:id], "sequence")
            read_back = {version: input[:version], letters: input[:letters], gaps: input.fetch(:gaps, 0), joining: input[:joining],
                         moment: moment}
            if input[:at] then Work::StartLater.plan(sequence, at: input[:at], **read_back)
            elsif input[:undo] then Work::StartLater.send_soon(sequence, seen: input[:seen], **read_back)
            else Work::StartSequence.call(sequence, seen: input[:seen], **read_back)
            end
            json(SequenceJson.new(sequence.refresh, moment).write)
          end

          app.post "/api/sequences/:id/not-yet" do
            sequence = fetch_record(Records::Sequence, params[:id], "sequence")
            Work::StartLater.cancel(sequence, version: input[:version], moment: moment)
            json(SequenceJson.new(sequence.refresh, moment).write)
          end

          app.post "/api/sequences/:id/move" do
            sequence = Work::RunSequence.call(fetch_record(Records::Sequence, params[:id], "sequence"), input[:move], moment: moment)
            json(SequenceJson.new(sequence.refresh, moment).write)
          end

          app.post "/api/sequences/:id/join" do
            sequence = fetch_record(Records::Sequence, params[:id], "sequence")
            joining = Work::AddPeople.new(sequence, input[:audience], moment, again: input.fetch(:again, "leave_out"))
            preview = joining.preview
            joined = input[:letters] && joining.call(letters: input[:letters], gaps: input.fetch(:gaps, 0))
            json({**preview, joined: joined}.compact)
          end
        end
      end
    end
  end
end
