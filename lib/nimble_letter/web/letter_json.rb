# frozen_string_literal: true

module NimbleLetter
  module Web
    # Letters as the contract has them.
    module LetterJson
      # @param letters [Array<Records::Letter>]
      def self.rows(letters)
        authors = Records::Account.select_hash(:id, :name)
        used = used_in(letters.map(&:id))
        events = Records::Event.by_people.where(kind: %w[sent opened replied]).exclude(letter_id: nil).group(:letter_id, :kind)
          .select_hash([:letter_id, :kind], Sequel.function(:count, Sequel[:delivery_id]).distinct.as(:count))
        letters.map do |letter|
          counts = %w[sent opened replied].to_h { |kind| [kind.to_sym, events.fetch([letter.id, kind], 0)] }
          {id: letter.id, name: letter.name, subject: letter.document(:subject).summary, author: authors[letter.account_id], updated_at: letter.updated_at, used_in: used.fetch(letter.id, []), **counts}
        end
      end

      def self.write(letter)
        {id: letter.id, name: letter.name, subject: letter.subject, preview: letter.preview, body: letter.body, version: letter.version, updated_at: letter.updated_at,
         running_in: used_in([letter.id], states: %w[running paused]).fetch(letter.id, [])}
      end

      def self.preview(letter, person, moment)
        mailbox = Records::Mailbox.first(account_id: person.owner_id || moment.account.id) || Records::Mailbox.first
        signature = mailbox ? mailbox.signature(moment.firm) : []
        merged = letter.merge.call(moment.facts.for_letter(person, mailbox))
        {person_id: person.id, person: person.name, mailbox: mailbox && {address: mailbox.address, name: mailbox.name}, signature: signature, **Work::MergedJson.write(merged),
         text: Core::Letters::TextWriter.write(merged, signature: signature)}
      end

      def self.used_in(ids, states: Records::Sequence::STATES)
        Records.db[:steps].join(:sequences, id: :sequence_id).where(:letter_id => ids, Sequel[:sequences][:state] => states)
          .distinct.select(:letter_id, Sequel[:sequences][:id], Sequel[:sequences][:name]).all.group_by { |row| row[:letter_id] }
          .transform_values { |rows| rows.map { |row| row.slice(:id, :name) } }
      end
      private_class_method :used_in
    end
  end
end
