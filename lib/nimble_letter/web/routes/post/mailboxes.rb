# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/mailboxes: made, changed, proved and retired
      module Mailboxes
        # What these routes share.
        module Helpers
          def sent_today
            midnight = Core::Calendar::Zones.instant(moment.firm.zone, moment.today, 0)
            Records::Delivery.where(state: "sent").where { sent_at >= midnight }.group_and_count(:mailbox_id).as_hash(:mailbox_id, :count)
          end

          def mailbox = @mailbox ||= fetch_record(Records::Mailbox, params[:id], "mailbox")

          def one_mailbox(box) = MailboxJson.write([box.refresh], sent_today: sent_today).first
        end

        def self.registered(app)
          app.helpers Helpers

          app.get("/api/mailboxes") { json(mailboxes: MailboxJson.write(Records::Mailbox.order(:id).all, sent_today: sent_today)) }

          app.post("/api/mailboxes") { json(one_mailbox(Work::KeepMailbox.make(input, moment: moment)), 201) }

          app.patch "/api/mailboxes/:id" do
            moment.admin!
            json(one_mailbox(Work::KeepMailbox.change(mailbox, input, moment: moment)))
          end

          app.post "/api/mailboxes/:id/retire" do
            moment.admin!
            json(one_mailbox(Work::KeepMailbox.retire(mailbox, anyway: input.fetch(:anyway, false), moment: moment)))
          end

          app.post "/api/mailboxes/:id/take-back" do
            moment.admin!
            json(one_mailbox(Work::KeepMailbox.take_back(mailbox, moment: moment)))
          end

          app.post("/api/mailboxes/:id/code") { json(one_mailbox(Work::ProveMailbox.send_code(mailbox, moment: moment))) }

          app.post("/api/mailboxes/:id/prove") { json(one_mailbox(Work::ProveMailbox.enter(mailbox, input[:code], moment: moment))) }

          app.post "/api/mailboxes/:id/wake" do
            Work::RestMailbox.wake(mailbox.id)
            json(one_mailbox(mailbox))
          end
        end
      end
    end
  end
end
