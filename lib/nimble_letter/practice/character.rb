# frozen_string_literal: true

require "digest"
require "nokogiri"
require "mail"

module NimbleLetter
  module Practice
    # The recipient behind one address: reads a real letter and decides what to do with it, and when.
    class Character
      # kind: "open", "click", "unsubscribe" (HTTP calls) or "mail" (something put in the Maildir)
      Reaction = Struct.new(:at, :kind, :data)

      MINUTE = 60
      HOUR = 3600
      READER = "Mozilla/5.0 (X11; Linux x86_64) PracticeReader/1.0"
      SCANNER = "practice-link-scanner/1.0"

      # @param raw [String] the letter as it came
      # @param address [String]
      # @param at [Time] when it came
      # @param nth [Integer] how many letters this address has had before; people are not the same twice
      def initialize(raw, address:, at:, seed:, nth: 0)
        @mail, @address, @at = Mail.new(raw), address, at
        @temperament = Temperament.of(address, seed)
        @random = Random.new(Digest::SHA256.digest("#{seed}:#{address}:#{nth}").unpack1("Q>"))
      end

      # @return [Array<Reaction>] earliest first
      def reactions = send(@temperament).flatten.compact.sort_by(&:at)

      private

      def silent = []

      def refusing = []

      def busy = []

      def wary = []

      def dropping = []

      def glancer = [chance(0.75) { look(span(0.3, 20)) }, chance(0.2) { look(span(21, 60)) }]

      def reader
        first = span(0.2, 14)
        [look(first), chance(0.6) { click(first + 40) }, chance(0.25) { look(first + span(3, 30)) }]
      end

      def keen
        first = span(0.1, 7)
        [look(first), chance(0.8) { click(first + 55) }, chance(0.5) { reply(first + span(0.2, 3), :warm) }]
      end

      def correspondent
        first = span(0.3, 26)
        [look(first), chance(0.6) { reply(first + span(0.1, 5), pick(%i[warm later later no])) }]
      end

      def answering = [look(30 * MINUTE), click(31 * MINUTE), reply(HOUR, :warm)]

      def away = [mail(MINUTE, ReplyMail.out_of_office(@mail, @address, @at)), look(span(80, 150))]

      def failing = [mail(3 * MINUTE, ReplyMail.bounce(@mail, @address, @at))]

      def leaver
        first = span(0.5, 9)
        [look(first), Reaction.new(@at + first + 90, "unsubscribe", {"url" => way_out, "agent" => READER})]
      end

      def naysayer = [look(HOUR), reply(HOUR + 5 * MINUTE, :stop)]

      def scanned = [look(4, SCANNER), click(5, SCANNER), *glancer]

      def look(after, agent = READER) =
        (url = page.at_css("img[src*='/o/']")&.[]("src")) && Reaction.new(@at + after, "open", {"url" => url, "agent" => agent})

      def click(after, agent = READER)
        links = page.css("a").map { |a| a["href"] }.select { |href| href.include?("/c/") }
        links.any? ? Reaction.new(@at + after, "click", {"url" => pick(links), "agent" => agent}) : nil
      end

      def reply(after, tone) = mail(after, ReplyMail.answer(@mail, @address, tone, @random, @at + after))

      def mail(after, raw) = Reaction.new(@at + after, "mail", {"raw" => raw})

      def page = @page ||= Nokogiri::HTML5(@mail.html_part&.decoded || "")

      def way_out = @mail["List-Unsubscribe"].value[/<([^>]+)>/, 1]

      def chance(share) = (@random.rand < share) ? yield : nil

      def pick(list) = list[@random.rand(list.size)]

      def span(from_hours, to_hours) = @random.rand((from_hours * HOUR).to_i..(to_hours * HOUR).to_i)
    end
  end
end
