# frozen_string_literal: true

module NimbleLetter
  module Web
    # Letters as the contract has them.
    module LetterJson
      # @param letters [Array<Records::Letter>]
      # @param account [Records::Account] whose favourites are marked
      def self.rows(letters, account)
        authors = Records::Account.select_hash(:id, :name)
        used = used_in(letters.map(&:id))
        favourites = Records.db[:letter_favourites].where(account_id: account.id).select_map(:letter_id)
        letters.map do |letter|
          {
            **letter.values.slice(:id, :name, :manner, :category, :language, :about, :updated_at),
            subject: letter.document(:subject).summary,
            author: authors[letter.account_id],
            used_in: used.fetch(letter.id, []),
            archived: !letter.archived_at.nil?,
            favourite: favourites.include?(letter.id),
            version: letter.version
          }
        end
      end

      # How letters did, apart from what they are: it is counted over all that ever went.
      # @return [Array<Hash>] see LetterFigures in openapi.yaml; of those that went to anybody
      def self.figures =
        Work::LetterFigures.counts.group_by { |(id, _), _| id }.map do |id, counts|
          by_kind = counts.to_h { |(_, kind), count| [kind.to_sym, count] }
          {letter_id: id, **Work::LetterFigures::KINDS.to_h { |kind| [kind.to_sym, by_kind.fetch(kind.to_sym, 0)] }}
        end

      def self.write(letter)
        {
          **letter.values.slice(:id, :name, :named, :manner, :category, :language, :about, :version, :updated_at),
          subject: letter.subject,
          preview: letter.preview,
          body: letter.body,
          archived: !letter.archived_at.nil?,
          set_aside: letter.set_aside || [],
          running_in: Work::LetterUse.running(letter),
          used_in: used_in([letter.id])[letter.id],
          attachments: attachments(letter)
        }
      end

      def self.attachments(letter) =
        Records::Attachment
          .kept
          .without_data
          .where(letter_id: letter.id)
          .order(:id)
          .all
          .map { |file| file.values.slice(:id, :name, :mime, :bytes) }

      def self.used_in(ids)
        steps = Records::Step.sending(ids).order(:sequence_id, :id).eager(:sequence).all
        steps.each_with_object(Hash.new { |all, id| all[id] = [] }) do |step, all|
          step.letter_ids.each { |id| all[id] |= [step.sequence.values.slice(:id, :name)] }
        end
      end
      private_class_method :used_in
    end
  end
end
