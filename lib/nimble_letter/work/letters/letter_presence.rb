# frozen_string_literal: true

module NimbleLetter
  module Work
    # Who else has a letter open just now. By the database's own clock: this is about people at desks, not about the post.
    class LetterPresence
      GONE_SECONDS = 25 # a page says every five that it is here; a few may be lost

      def initialize(letter, account)
        @letter, @account = letter, account
      end

      # @param tab [String] one open page
      # @return [Array<Hash>] others: name, and own (another page of one's own)
      def here(tab)
        now = Records.server_time
        table = Records.db[:letter_presences]
        table.on_duplicate_key_update(:seen_at).insert(letter_id: @letter.id, tab: tab, account_id: @account.id, seen_at: now)
        table.where(letter_id: @letter.id).where { seen_at < now - GONE_SECONDS }.delete
        others = table.where(letter_id: @letter.id).exclude(tab: tab).select_map(:account_id)
        names = Records::Account.where(id: others).select_hash(:id, :name)
        others.uniq.map { |id| {name: names[id], own: id == @account.id} }
      end

      # @return [Array] nobody
      def leaves(tab)
        Records.db[:letter_presences].where(letter_id: @letter.id, tab: tab, account_id: @account.id).delete
        []
      end
    end
  end
end
