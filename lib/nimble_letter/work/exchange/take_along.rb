# frozen_string_literal: true

require "stringio"

module NimbleLetter
  module Work
    # Pictures and passages that come with letters in a file. Those that are here already are used; the others are made.
    class TakeAlong
      # @param pictures [Array<Hash>] id, name, data (base64)
      # @param passages [Array<Hash>] id, name, documents
      # @param rewrite [#call] what else is called otherwise here, done to each document
      def initialize(moment, pictures:, passages:, rewrite: ->(json) { json })
        @moment, @rewrite = moment, rewrite
        @pictures, @passages = [pictures, passages].map { |all| entries(all) }
        @taken = {"pictures" => {}, "passages" => {}}
      end

      # @param json [Hash, Array] of letters
      # @return [Hash, Array] with the pictures and passages as they are numbered here
      def call(json)
        Core::Exchange::Places.map(@rewrite.call(json), ->(_key) {}) do |kind, value|
          case kind
          when "pictures" then @taken[kind][value] ||= picture(value)
          when "passages" then @taken[kind][value] ||= passage(value)
          else value
          end
        end
      end

      private

      def entries(all) = Array(all).grep(Hash).select { |entry| entry["id"].is_a?(Integer) }.to_h { |entry| [entry["id"], entry] }

      # A number alone would be somebody else's here.
      def missing(noun, id) =
        raise(Invalid.new("#{noun} #{id.to_s[0, 20]} is not in the file.", code: :not_a_letter, at: "#{noun.downcase}s"))

      def picture(id)
        entry = @pictures[id] or missing("Picture", id)
        data = entry["data"].to_s.unpack1("m0")
        here = Records::Picture.without_data.first(digest: Digest::SHA256.hexdigest(data))
        (here || TakePicture.new(@moment).call(StringIO.new(data), name: entry["name"])).id
      rescue ArgumentError
        raise Invalid.new("A picture in this file is broken.", code: :not_a_letter)
      end

      # Those within it come first. One that stands within itself cannot come from us.
      def passage(id)
        entry = @passages.delete(id) or missing("Passage", id)
        documents = call(entry["documents"])
        here = Records::Passage.where(name: entry["name"].to_s).all.find { |one| one.documents == documents }
        (here || KeepPassage.new(@moment).make(name: entry["name"], documents: documents)).id
      end
    end
  end
end
