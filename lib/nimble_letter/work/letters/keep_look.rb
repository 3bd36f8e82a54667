# frozen_string_literal: true

module NimbleLetter
  module Work
    # Keeps how the firm's designed letters look, the address below them, and what colleagues and mailboxes sign with.
    class KeepLook
      def initialize(moment)
        @moment = moment
      end

      # @param values [Hash{String=>Object}] see Core::Letters::Look
      # @param postal_address [String, nil] nil: as it is
      # @raise [Invalid]
      # @raise [Forbidden] unless an admin asks
      def call(values, postal_address: nil)
        @moment.admin!
        look = Core::Letters::Look.parse!(values)
        picture = look["logo_picture_id"]
        raise Invalid.new("This picture is not in the library.", at: "look.logo_picture_id") if picture && !Records::Picture[picture]

        @moment.note("setting_changed", about: "the look of letters")
        address = postal_address && {postal_address: Core::Letters::Values.clean(postal_address).to_s[0, 200]}
        Records::Firm.save(look: look.values, **address.to_h)
      end

      # One's own and one's mailbox's; all others are the admin's.
      # @param holder [Records::Account, Records::Mailbox]
      # @param document [Hash, nil] nil: name and firm only
      # @raise [Invalid, Forbidden]
      def sign(holder, document)
        whose = holder.is_a?(Records::Account) ? holder.id : holder.account_id
        @moment.admin! unless whose && whose == @moment.account&.id
        document &&= Core::Letters::Document.parse!(document, at: "document", catalogue: @moment.catalogue)
        holder.update(signature: (document.to_h if document && !document.empty?))
      end
    end
  end
end
