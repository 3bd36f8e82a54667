# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/sequences/:id/members: who is in it and where; /api/members: one of them
      module Members
        # What these routes share.
        module Helpers
          def member_table = Work::MemberTable.new(fetch_record(Records::Sequence, params[:id], "sequence"), params)

          def member = @member ||= fetch_record(Records::Member, params[:id], "member")

          def one_member = json(MemberJson.rows([member.refresh]).first)
        end

        def self.registered(app)
          app.helpers Helpers

          app.get "/api/sequences/:id/members" do
            table = member_table
            json(members: MemberJson.rows(table.page([params["from"].to_i, 0].max)), total: table.total)
          end

          app.get("/api/sequences/:id/members/people") { json(ids: member_table.people) }

          app.post "/api/sequences/:id/members/status" do
            sequence = fetch_record(Records::Sequence, params[:id], "sequence")
            json(changed: Work::MemberStatus.set_many(sequence, input[:people], input[:status], moment: moment))
          end

          app.post "/api/members/:id/nod" do
            Work::Nod.call(member, moment: moment)
            one_member
          end

          app.patch "/api/members/:id" do
            Work::MemberStatus.set(member, input[:status], at: moment.now, account_id: account.id) if input[:status]
            one_member
          end
        end
      end
    end
  end
end
