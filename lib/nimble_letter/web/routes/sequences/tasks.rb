# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/tasks: what colleagues do for people, and what came of it
      module Tasks
        PAGE = 100

        def self.registered(app)
          app.get "/api/tasks" do
            tasks = Records::Task.dataset
            tasks = tasks.where(state: params.fetch("state", "open"))
            tasks = tasks.where(person_id: params["person_id"].to_i) if params["person_id"]
            tasks = tasks.seen_by(account) if params["mine"].to_s == "true"
            page = tasks.in_order.offset(params["after"].to_i).limit(PAGE + 1).all
            json(
              tasks: TaskJson.rows(page.first(PAGE)),
              total: tasks.in_order.count,
              next_after: (params["after"].to_i + PAGE if page.size > PAGE)
            )
          end

          app.patch "/api/tasks/:id" do
            task = fetch_record(Records::Task, params[:id], "task")
            if input.key?(:account_id)
              task = Work::GiveTask.call(task, input[:account_id], version: input[:version], moment: moment)
            elsif input[:done]
              task = Work::DoTask.call(task, outcome: input[:outcome], note: input[:note], version: input[:version], moment: moment)
            else
              raise Invalid.new("Say that it is done, or whose it is.", at: "done")
            end
            json(TaskJson.rows([task.refresh]).first)
          end
        end
      end
    end
  end
end
