# frozen_string_literal: true

NimbleLetter::Files::XmlLibrary.load!
require "vips"
require "digest"
require "securerandom"

module NimbleLetter
  module Work
    # Takes a picture into the library: decoded, turned upright, made no wider than letters need, and written anew, so that
    # neither its metadata (where it was taken) nor anything hidden in the file comes along.
    class TakePicture
      MOST_BYTES = 12 * 1024 * 1024
      MOST_PIXELS = 60_000_000 # a phone's best; a small file that claims more is a bomb
      WIDEST = 1200 # twice what a letter shows, for sharp screens
      QUALITY = 82
      # What is decoded at all; SVG can hold scripts and is not a picture to mail programs.
      BEGINNINGS = {
        "JPEG" => /\A\xFF\xD8\xFF/n,
        "PNG" => /\A\x89PNG\r\n\x1A\n/n,
        "GIF" => /\AGIF8[79]a/n,
        "WebP" => /\ARIFF....WEBP/mn
      }.freeze

      def initialize(moment)
        @moment = moment
      end

      # @param stream [#read]
      # @return [Records::Picture] the same one when it is there already
      # @raise [Invalid] when it is not a picture, or too much of one
      def call(stream, name:)
        bytes = stream.read(MOST_BYTES + 1).to_s
        raise Invalid.new("A picture may have #{MOST_BYTES / 1024 / 1024} MB.", code: :too_large) if bytes.bytesize > MOST_BYTES

        data, mime, width, height = rewritten(bytes)
        digest = Digest::SHA256.hexdigest(data)
        Records::Picture.without_data.first(digest: digest) ||
          Records::Picture.create(
            key: SecureRandom.urlsafe_base64(16),
            name: named(name),
            digest: digest,
            mime: mime,
            width: width,
            height: height,
            bytes: data.bytesize,
            data: Sequel.blob(data),
            account_id: @moment.account&.id,
            created_at: @moment.now
          )
      end

      private

      def named(name) = (Core::Letters::Values.clean(name.to_s.scrub("").sub(/\.\w{1,5}\z/, "")) || "Picture")[0, 160]

      # @return [Array(String, String, Integer, Integer)] data, type, width, height
      def rewritten(bytes)
        not_one! if BEGINNINGS.values.none? { |beginning| bytes.b.match?(beginning) }
        # Only the head is read so far: size is known before anything is unpacked.
        image = Vips::Image.new_from_buffer(bytes, "", access: :sequential)
        if image.width * image.height > MOST_PIXELS
          raise Invalid.new(
            "This picture is #{image.width} × #{image.height}; that is more than a letter could ever show.",
            code: :too_large
          )
        end

        image = Vips::Image.thumbnail_buffer(bytes, WIDEST, height: WIDEST * 4, size: :down)
        data, mime =
          (
            if image.has_alpha?
              [image.pngsave_buffer(compression: 9, strip: true), "image/png"]
            else
              [image.jpegsave_buffer(Q: QUALITY, strip: true, optimize_coding: true), "image/jpeg"]
            end
          )
        [data, mime, image.width, image.height]
      rescue Vips::Error
        not_one!
      end

      def not_one! =
        raise(Invalid.new("This is not a picture we can read.", code: :not_a_picture, hint: "Take a JPEG, PNG, GIF or WebP file."))
    end
  end
end
