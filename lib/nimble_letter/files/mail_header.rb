# frozen_string_literal: true

require "mail"

module NimbleLetter
  module Files
    # Lines of a mail's header: what is not ASCII as encoded words of at most 75 characters (RFC 2047 2), folded so that no line has more
    # than 78 where there is a space to fold at (RFC 5322 2.1.1).
    module MailHeader
      LINE = 78
      WORD_BYTES = 42 # twelve signs around them and four for each three make 68, which fits behind the name of a field
      # A name that needs no quotes and no encoding (RFC 5322 3.2.3, atoms).
      ATOMS = /\A[A-Za-z0-9'-]+(?: [A-Za-z0-9'-]+)*\z/

      # @param name [String] of the field
      # @param value [String] as people read it, or ASCII
      # @return [String] with CRLF line ends
      def self.line(name, value)
        value = value.gsub(/[[:cntrl:]]+/, " ").strip
        "#{folded("#{name}: #{value.ascii_only? ? value : words(value)}")}\r\n"
      end

      # @param name [String] of a person
      # @param address [String] as it goes on the wire
      # @return [String]
      def self.address(name, address)
        name = name.to_s.gsub(/[[:cntrl:]]+/, " ").strip
        return "#{name} <#{address}>" if name.match?(ATOMS)
        return "#{words(name)} <#{address}>" unless name.ascii_only?

        Mail::Address.new.tap { |made| made.address, made.display_name = address, name }.format
      end

      # @param text [String]
      # @return [String] encoded words with spaces in between, which are no part of the text
      def self.words(text)
        parts = text.grapheme_clusters.each_with_object([+""]) do |letter, all|
          (all.last.bytesize + letter.bytesize > WORD_BYTES) ? all << +letter : all.last << letter
        end
        parts.reject(&:empty?).flat_map { |part| sliced(part) }.map { |part| "=?UTF-8?B?#{[part].pack("m0")}?=" }.join(" ")
      end

      # A letter with a great many marks on it is longer than a word.
      def self.sliced(part) = (part.bytesize <= WORD_BYTES) ? [part] : part.each_char.each_slice(WORD_BYTES / 4).map(&:join)
      private_class_method :sliced

      # @param line [String] without line breaks
      # @return [String]
      def self.folded(line)
        lines = [+""]
        line.split(/(?= )/).each do |part|
          full = lines.last.bytesize + part.bytesize > LINE && lines.last.match?(/:.*\S|\A\s+\S/)
          full ? lines << +part : lines.last << part
        end
        lines.join("\r\n")
      end
      private_class_method :folded
    end
  end
end
