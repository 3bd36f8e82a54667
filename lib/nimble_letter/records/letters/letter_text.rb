# frozen_string_literal: true

require "digest"

module NimbleLetter
  module Records
    # What a letter says, with its files, as a plan holds it. Never changed once it is made, but for the name of a tag.
    class LetterText < Sequel::Model(:letter_texts)
      extend JsonColumn

      json_column :content

      many_to_one :letter

      # Its name and category are ours, and nobody reads them in it.
      PARTS = (Letter::CONTENT - %i[name category]).freeze

      # @param letter [Letter] as it is written now
      # @return [Integer] number of the text that says the same, made if there is none
      def self.keep(letter)
        content = content_of(letter)
        values = {letter_id: letter.id, digest: digest(content)}
        dataset.insert_ignore.insert(**values, content: content) if where(values).empty?
        # Whoever wrote the same at this moment is seen too.
        where(values).for_update.get(:id)
      end

      # @return [Boolean] whether a letter is written otherwise by now
      def other_than?(letter) = digest != self.class.digest(self.class.content_of(letter))

      # @param content [Hash] in which something goes by another name, and which means what it meant
      # @return [Hash{Symbol=>String}] its digest; nothing where another text of this letter says the same by now
      def digest_of(content)
        digest = self.class.digest(JSON.generate(content))
        self.class.where(letter_id: letter_id, digest: digest).empty? ? {digest: digest} : {}
      end

      # @api private
      def self.content_of(letter)
        files = letter.attachments_dataset.select_map(:id)
        JSON.generate(PARTS.to_h { |name| [name, letter.public_send(name)] }.merge(attachments: files))
      end

      # @api private
      def self.digest(content) = Digest::SHA256.hexdigest(content)

      # @param letter [Letter] whose it is
      # @return [Letter] under its number, in these words; to be read only
      def to_letter(letter)
        held = Letter.call(letter.values.dup)
        PARTS.each { |name| held.public_send(:"#{name}=", content[name.to_s]) }
        files = content.fetch("attachments")
        held.associations[:attachments] = files.empty? ? [] : Attachment.where(id: files).order(:id).all
        held.freeze
      end
    end
  end
end
