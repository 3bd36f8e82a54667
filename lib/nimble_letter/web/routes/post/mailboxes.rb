# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/mailboxes
      module Mailboxes
        # What these routes share.
        module Helpers
          def sent_today
            midnight = Core::Calendar::Zones.instant(moment.firm.zone, moment.today, 0)
            Records::Delivery.where(state: "sent").where { sent_at >= midnight }.group_and_count(:mailbox_id).as_hash(:mailbox_id, :count)
          end
        end

        def self.registered(app)
          app.helpers Helpers

          app.get("/api/mailboxes") { json(mailboxes: MailboxJson.write(Records::Mailbox.order(:id).all, sent_today: sent_today)) }

          app.post "/api/mailboxes/:id/wake" do
            box = fetch_record(Records::Mailbox, params[:id], "mailbox")
            Work::RestMailbox.wake(box.id)
            json(MailboxJson.write([box.refresh], sent_today: sent_today).first)
          end

          app.patch "/api/mailboxes/:id" do
            box = Work::LimitMailbox.call(fetch_record(Records::Mailbox, params[:id], "mailbox"), input[:daily_limit], moment: moment)
            json(MailboxJson.write([box], sent_today: sent_today).first)
          end
        end
      end
    end
  end
end
