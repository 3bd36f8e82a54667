# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/look, /api/signatures: how the firm's letters look and who signs them
      module Look
        # What these routes share.
        module Helpers
          def look_json(look) =
            {
              values: look.values,
              contrasts: look.contrasts,
              fonts: Core::Letters::Look::FONTS.map { |key, stack| {key: key, stack: stack} },
              postal_address: moment.firm.postal_address
            }

          def signatures
            accounts =
              Records::Account
                .order(:name)
                .all
                .map { |one| {kind: "account", id: one.id, name: one.name, detail: one.email, document: one.signature} }
            boxes = Records::Mailbox.order(:address).eager(:account).all
            accounts +
              boxes.map do |box|
                {
                  kind: "mailbox",
                  id: box.id,
                  name: box.address,
                  detail: box.name,
                  document: box.signature,
                  unsigned: box.signed(moment.firm)
                }
              end
          end

          # One's own and one's mailbox's; all others are the admin's.
          def signature_holder
            holder =
              (
                if params[:kind] == "account"
                  fetch_record(Records::Account, params[:id], "colleague")
                else
                  fetch_record(Records::Mailbox, params[:id], "mailbox")
                end
              )
            admin! unless account.id == ((params[:kind] == "account") ? holder.id : holder.account_id)
            holder
          end
        end

        def self.registered(app)
          app.helpers Helpers

          app.get("/api/look") { json(look_json(moment.firm.look)) }

          app.put "/api/look" do
            admin!
            look = Core::Letters::Look.new(input[:values])
            Records::Firm.save(
              look: look.values,
              **(input[:postal_address] ? {postal_address: Core::Letters::Values.clean(input[:postal_address]).to_s[0, 200]} : {})
            )
            @moment = nil
            json(look_json(moment.firm.look))
          end

          app.get("/api/signatures") { json(signatures: signatures) }

          app.put "/api/signatures/:kind/:id" do
            document = input[:document] && Core::Letters::Document.parse!(input[:document], at: "document", catalogue: moment.catalogue)
            signature_holder.update(signature: (document.to_h if document && !document.empty?))
            json(signatures: signatures)
          end
        end
      end
    end
  end
end
