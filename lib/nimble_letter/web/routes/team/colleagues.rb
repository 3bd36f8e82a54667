# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/colleagues: who works here, what they may do; /api/safety-log: what matters to safety
      module Colleagues
        def self.registered(app)
          app.get "/api/colleagues" do
            moment.admin!
            json(colleagues: ColleagueJson.rows(Records::Account.order(:name).all))
          end

          app.post "/api/colleagues" do
            json(Work::MakeColleague.call(input[:name], moment: moment).values.slice(:id, :name), 201)
          end

          app.patch "/api/colleagues/:id" do
            colleague = fetch_record(Records::Account, params[:id], "colleague")
            json(ColleagueJson.write(Work::ChangeColleague.call(colleague, moment: moment, **input.slice(:role, :closed))))
          end

          app.get "/api/safety-log" do
            moment.admin!
            lines = Records::SafetyLog.page(before: params["before"]&.to_i, kind: params["kind"])
            json(
              lines: lines.map { |line| line.slice(:id, :at, :kind, :who, :connection, :about) },
              next_before: (lines.last[:id] if lines.size == Records::SafetyLog::SHOWN)
            )
          end
        end
      end
    end
  end
end
