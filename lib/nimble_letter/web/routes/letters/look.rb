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
            boxes = Records::Mailbox.in_use.order(:address).eager(:account).all
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

          def signature_holder
            model, what = (params[:kind] == "account") ? [Records::Account, "colleague"] : [Records::Mailbox, "mailbox"]
            fetch_record(model, params[:id], what)
          end
        end

        def self.registered(app)
          app.helpers Helpers

          app.get("/api/look") { json(look_json(moment.firm.look)) }

          app.put "/api/look" do
            Work::KeepLook.new(moment).call(input[:values], postal_address: input[:postal_address])
            @moment = nil
            json(look_json(moment.firm.look))
          end

          app.get("/api/signatures") { json(signatures: signatures) }

          app.put "/api/signatures/:kind/:id" do
            Work::KeepLook.new(moment).sign(signature_holder, input[:document])
            json(signatures: signatures)
          end
        end
      end
    end
  end
end
