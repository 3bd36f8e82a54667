# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # GET /api/today, and its numbers alone
      module Today
        SHOWN = 8

        def self.registered(app)
          # Asked by every screen every few seconds: three counts, and nothing else.
          app.get "/api/today/counts" do
            json(
              new_replies: Records::Incoming.to_read.count,
              in_doubt: Records::Delivery.where(state: "in_doubt").count,
              set_aside: Records::SetAside.count
            )
          end

          app.get "/api/today" do
            to_read = Records::Incoming.to_read
            under_way = Records::Sequence.under_way.select(:id)
            doubtful = Records::Delivery.where(state: "in_doubt")
            failed = Records::Delivery.where(state: "failed", sequence_id: under_way).not_set_aside
            # What was to start and did not is nowhere else said to those who do not open it.
            drafts = Records::Sequence.where(state: "draft").order(Sequel.expr(start_refused: nil), Sequel.desc(:updated_at))
            shown = ->(letters) { letters.order(Sequel.desc(:due_at), :id).limit(SHOWN).all }
            json(
              new_replies: ReplyJson.rows(to_read.newest_first.limit(SHOWN).all),
              new_replies_count: to_read.count,
              drafts: SequenceRows.write(drafts.limit(SHOWN).all),
              running:
                SequenceRows.write(Records::Sequence.under_way.order(Sequel.desc(:started_at)).limit(SHOWN).all),
              in_doubt: DeliveryJson.doubts(shown.call(doubtful)).map { |letter| letter.except(:text) },
              in_doubt_count: doubtful.count,
              failures: shown.call(failed).map { |delivery| DeliveryJson.write(delivery).except(:text) },
              set_aside: SetAsideJson.in_short,
              resting: MailboxJson.write(Records::Mailbox.resting(moment.now).order(:id).all),
              waiting_to_join: JoinRuleJson.waiting(moment),
              next: Work::PostAhead.new(moment).call[:next]
            )
          end
        end
      end
    end
  end
end
