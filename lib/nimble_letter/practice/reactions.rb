# frozen_string_literal: true

require "net/http"

module NimbleLetter
  module Practice
    # Plays what the characters planned: real HTTP calls to the addresses in the letters, real mail into the Maildir.
    class Reactions
      KIND = "reaction"
      SET_ASIDE, SKIPPED = "set_aside", "skipped"
      # How a call ends that reached nobody.
      UNANSWERED = [SystemCallError, IOError, SocketError, Timeout::Error, Net::HTTPBadResponse, Net::ProtocolError].freeze

      # @param maildir [Post::Maildir]
      # @param home [Home]
      def initialize(maildir:, home:)
        @maildir, @home = maildir, home
      end

      # @return [Time, nil] when the next one is due
      def next_at = waiting.min(:at)

      # Plays the earliest one that is due. A call that fails is not tried again: people don't.
      # @return [String, nil] its kind, SET_ASIDE, or SKIPPED
      def play_one(now)
        take_up_again
        row = waiting.where { at <= now }.order(:at, :id).first or return
        # Another worker may have been quicker.
        return SKIPPED unless waiting.where(id: row[:id]).update(done: true) == 1

        Work::PutAside.guard(KIND, row[:id], at: now) do
          perform(row[:kind], JSON.parse(row[:data]))
          row[:kind]
        end || SET_ASIDE
      end

      private

      # Somebody asked for another try.
      def take_up_again
        keys = Records::SetAside.where(kind: KIND, again: true).select_map(:key)
        return if keys.empty?

        Records.db[:practice_reactions].where(id: keys.map(&:to_i)).update(done: false)
        Records::SetAside.where(kind: KIND, key: keys).delete
      end

      def waiting = Records.db[:practice_reactions].where(done: false)

      def perform(kind, data)
        case kind
        when "mail"
          @maildir.deliver(data.fetch("raw"))
        when "unsubscribe"
          call(data) do |uri, headers|
            Net::HTTP::Post.new(uri, headers).tap { |request| request.set_form_data("List-Unsubscribe" => "One-Click") }
          end
        else
          call(data) { |uri, headers| Net::HTTP::Get.new(uri, headers) }
        end
      end

      def call(data)
        uri = @home.find(data.fetch("url"))
        connection(uri).request(yield(uri, {"User-Agent" => data["agent"]}))
      rescue *UNANSWERED
        @connection = nil
      end

      # Kept open: half a year of practice makes thousands of calls.
      def connection(uri)
        return @connection if @connection&.started?

        @connection = Net::HTTP.start(uri.host, uri.port, open_timeout: 5, read_timeout: 10)
      end
    end
  end
end
