# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # GET /api/today
      module Today
        SHOWN = 8

        def self.registered(app)
          app.get "/api/today" do
            to_read = Records::Incoming.to_read
            under_way = Records::Sequence.under_way.select(:id)
            troubled = ->(state, letters = Records::Delivery) do
              letters
                .where(state: state)
                .order(Sequel.desc(:due_at))
                .limit(SHOWN)
                .all
                .map { |delivery| DeliveryJson.write(delivery).except(:text) }
            end
            json(
              new_replies: ReplyJson.rows(to_read.newest_first.limit(SHOWN).all),
              new_replies_count: to_read.count,
              drafts: SequenceRows.write(Records::Sequence.where(state: "draft").order(Sequel.desc(:updated_at)).limit(SHOWN).all),
              running:
                SequenceRows.write(Records::Sequence.under_way.order(Sequel.desc(:started_at)).limit(SHOWN).all),
              in_doubt: troubled.call("in_doubt"),
              failures: troubled.call("failed", Records::Delivery.where(sequence_id: under_way).not_set_aside),
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
