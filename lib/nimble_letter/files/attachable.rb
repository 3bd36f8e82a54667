# frozen_string_literal: true

require "zip"
require "stringio"

module NimbleLetter
  module Files
    # What may go with a letter: not what runs when it is opened, told by every spelling of its name and by what is in it.
    # Mail servers turn away the whole letter for one of these, and they are right.
    module Attachable
      # Endings of what runs, or of what nobody can look into.
      REFUSED = %w[
        exe com bat cmd scr pif cpl msc js jse mjs vbs vbe wsf wsh ps1 psm1 sh msi msp jar class apk dll sys ocx hta chm lnk url reg
        iso img vhd vhdx dmg pkg app deb rpm docm dotm xlsm xltm xlam pptm potm ppam html htm xhtml shtml svg mht mhtml
        rar 7z cab ace arj gz tgz xz bz2 zst
      ].freeze
      OLD_OFFICE = %w[doc xls ppt].freeze
      # How what runs begins, and what cannot be looked into.
      BEGINNINGS = {
        "a program" => /\A(?:MZ|\x7FELF|\xFE\xED\xFA[\xCE\xCF]|[\xCE\xCF]\xFA\xED\xFE|\xCA\xFE\xBA\xBE|#!|dex\n)/n,
        "a shortcut" => /\AL\x00\x00\x00\x01\x14\x02\x00/n,
        "a page that can run scripts" => /\A(?:\xEF\xBB\xBF)?\s{0,64}<(?:!doctype\s+html|html|script|svg|hta:)/in,
        "an archive that cannot be looked into" => /\A(?:Rar!|7z\xBC\xAF|MSCF|\x1F\x8B|\xFD7zXZ|BZh|\x28\xB5\x2F\xFD)/n,
        "an installer or an old document with macros" => /\A\xD0\xCF\x11\xE0/n
      }.freeze
      DISC = (32_769..32_773)
      MOST_ENTRIES = 1000
      # Signs that show nothing and turn a name around.
      HIDDEN = /[\p{Cf}\p{Cc}\u034f\u115f\u1160\u3164\ufe00-\ufe0f]/

      class << self
        # @param name [String]
        # @return [String] as it is shown, and as the reader's machine takes it: full width folded, nothing hidden, no dots
        #   or blanks at the end
        def plain_name(name)
          name.to_s.scrub("").unicode_normalize(:nfkc).gsub(HIDDEN, "").tr("/\\:*?\"<>|", "_").gsub(/\s+/, " ").sub(/[. ]+\z/, "").strip
        end

        # @return [String] in small letters, without the dot; "" for none
        def ending(name) = plain_name(name)[/\.([^.]+)\z/, 1].to_s.strip.downcase

        # @param name [String]
        # @param data [String] the whole file
        # @return [String, nil] what it is, in words, when it must not be sent
        def refusal(name, data)
          return "a .#{ending(name)} file" if REFUSED.include?(ending(name))

          what = beginning(name, data)
          return what if what
          return "the image of a disc" if data.byteslice(DISC) == "CD001"

          archive(data) if data.start_with?("PK".b)
        end

        private

        def beginning(name, data)
          head = data.byteslice(0, 512).b
          what, = BEGINNINGS.find { |_, pattern| head.match?(pattern) }
          what unless what&.include?("old document") && OLD_OFFICE.include?(ending(name))
        end

        # @return [String, nil]
        def archive(data)
          entries = Zip::File.open_buffer(StringIO.new(data)).entries
          return "an archive of very many files" if entries.size > MOST_ENTRIES
          return "an archive with a password" if entries.any?(&:encrypted?)

          names = entries.map { |entry| entry.name.dup.force_encoding(Encoding::UTF_8) }
          return "a document with macros" if names.any? { |name| name.match?(/vbaProject\.bin\z/i) }

          within = names.find { |name| REFUSED.include?(ending(name)) || ending(name) == "zip" }
          "an archive with “#{plain_name(File.basename(within))[0, 60]}” in it" if within
        rescue Zip::Error, Zlib::Error, ArgumentError, EncodingError, EOFError
          "an archive that cannot be read"
        end
      end
    end
  end
end
