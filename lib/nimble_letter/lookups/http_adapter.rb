# frozen_string_literal: true

require "net/http"
require "json"

module NimbleLetter
  module Lookups
    # Asks an outside service over HTTP: GET <base>/<service>?<what>=<value>&day=<date>, answered by a JSON object of facts.
    # Never waits longer than it says, and never raises: what went wrong is an answer too.
    class HttpAdapter
      SECONDS = 1.5 # for the connection, and again for the answer
      MOST_BYTES = 16 * 1024

      # @param base_url [String]
      # @param seconds [Numeric] how long to wait, see SECONDS
      def initialize(base_url, seconds: SECONDS)
        @base_url, @seconds = base_url, seconds
      end

      # @param service [Core::Letters::Lookups::Service]
      # @param value [String] e.g. a city
      # @param day [Date]
      # @return [Answer]
      def ask(service, value, day)
        uri = URI("#{@base_url}/#{service.name}?#{URI.encode_www_form(service.by.split(".").last => value, :day => day.iso8601)}")
        response =
          Net::HTTP.start(
            uri.host,
            uri.port,
            open_timeout: @seconds,
            read_timeout: @seconds,
            max_retries: 0,
            use_ssl: uri.scheme == "https"
          ) { |http| http.get(uri.request_uri, "accept" => "application/json") }
        read(response, service)
      rescue Timeout::Error
        Answer.failed("#{service.label} did not answer in time", down: true)
      rescue SystemCallError, SocketError, IOError, Net::ProtocolError => error
        Answer.failed("#{service.label} cannot be reached (#{error.class.name.split("::").last})", down: true)
      end

      private

      def read(response, service)
        return Answer.failed("#{service.label} does not know this") if response.is_a?(Net::HTTPNotFound)
        return Answer.failed("#{service.label} answered #{response.code}", down: true) unless response.is_a?(Net::HTTPSuccess)

        body = response.body.to_s
        facts = (body.bytesize <= MOST_BYTES) ? JSON.parse(body) : nil
        facts.is_a?(Hash) ? Answer.new(facts: facts) : Answer.failed("#{service.label} gave an answer that cannot be read")
      rescue JSON::ParserError
        Answer.failed("#{service.label} gave an answer that cannot be read")
      end
    end
  end
end
