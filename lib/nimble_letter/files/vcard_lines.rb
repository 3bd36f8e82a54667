# frozen_string_literal: true

require "base64"

module NimbleLetter
  module Files
    # The lines of one card, unfolded and decoded: vCard 2.1 with its quoted-printable, 3.0 (RFC 2426) and 4.0 (RFC 6350).
    class VcardLines
      # parts: parted at semicolons; items: at commas; lists: at semicolons, and each part at commas; params: names in capitals to
      # Arrays of values
      Line = Struct.new(:name, :params, :parts, :items, :lists)

      PARAMETER = /;([^;:="]+)(?:=((?:"[^"]*"|[^;:"])*))?/
      CONTENT = /\A(?:[\w-]+\.)?([A-Za-z][\w-]*)((?:#{PARAMETER})*):(.*)\z/mo
      # Parameters that 2.1 writes without their name.
      BARE = {/\A(?:quoted-printable|base64|8bit|7bit)\z/i => "ENCODING"}.freeze
      MOST = 2000 # lines of one card

      # @param text [String] of one card
      # @return [Array<Line>] those that can be read; pictures and sounds are left out
      def self.read(text) = new(text).lines

      def initialize(text)
        @old = text.match?(/^VERSION:\s*2\.1\s*$/i)
        @text = text.gsub(/\r\n?/, "\n")
      end

      def lines = unfolded.first(MOST).filter_map { |line| line(line) }

      private

      # RFC 6350 3.2: a line goes on after a blank; RFC 2045 6.7: one of quoted-printable after an equals sign.
      def unfolded
        all = []
        @text.each_line(chomp: true) do |line|
          if all.any? && line.match?(/\A[ \t]/) then all.last << line[1..]
          elsif all.any? && soft?(all.last) then all[-1] = all.last.chomp("=") + "\u0001#{line}"
          else all << +line
          end
        end
        all
      end

      def soft?(line) = line.end_with?("=") && line.match?(/quoted-printable/i) && line.include?(":")

      def line(text)
        found = CONTENT.match(text) or return
        name, params = found[1].upcase, params(found[2])
        return if params["ENCODING"]&.any? { |one| one.match?(/\A(?:b|base64)\z/i) } || found.post_match != ""

        value = decoded(text[found.begin(found.size - 1)..], params)
        parts, items = parted(value, ";"), parted(value, ",")
        Line.new(name, params, parts.map { |part| plain(part) }, items.map { |item| plain(item) }, parts.map { |part| list(part) })
      end

      def params(text)
        text.scan(PARAMETER).each_with_object(Hash.new { |all, name| all[name] = [] }) do |(name, value), all|
          if value
            all[name.strip.upcase].concat(value.delete('"').split(","))
          else
            all[BARE.find { |pattern, _| name.match?(pattern) }&.last || "TYPE"] << name.strip
          end
        end
      end

      def decoded(value, params)
        return value.delete("\u0001") unless params["ENCODING"].any? { |one| one.match?(/\A(?:q|quoted-printable)\z/i) }

        bytes = value.gsub("\u0001", "=\n").unpack1("M")
        charset = params["CHARSET"].first
        text = bytes.dup.force_encoding(encoding(charset, bytes))
        text.encode("UTF-8", invalid: :replace, undef: :replace).gsub(/\r\n?/, "\n")
      end

      def encoding(charset, bytes)
        return Encoding.find(charset) if charset

        bytes.dup.force_encoding("UTF-8").valid_encoding? ? Encoding::UTF_8 : Encoding::Windows_1252
      rescue ArgumentError
        Encoding::Windows_1252
      end

      # RFC 6350 3.4: commas, semicolons, backslashes and line breaks within a part are escaped.
      def parted(value, mark)
        part = /\G((?:\\.|[^\\#{mark}]|\\\z)*)(#{mark}|\z)/m
        at, all = 0, []
        while (found = part.match(value, at))
          all << found[1]
          break if found[2].empty?

          at = found.end(0)
        end
        all
      end

      def list(part) = parted(part, ",").map { |item| plain(item) }

      def plain(text) = text.gsub(/\\(n|[,;:\\])/i) { |mark| mark.match?(/n/i) ? "\n" : mark[1] }
    end
  end
end
