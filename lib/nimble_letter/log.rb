# frozen_string_literal: true

require "semantic_logger"

module NimbleLetter
  # What the parts say about themselves: one line each, with its time, process, request and duration, to be read in a terminal or, with
  # NIMBLE_LOG=json, by a program. Nothing of anybody is in it: what an error says from its first quotation mark on, and what looks like an
  # address, is left out.
  module Log
    # To the end, since nobody knows where it ends: databases quote O'Brien as he is, and cut long statements. The apostrophe of "can't"
    # begins nothing.
    QUOTED = /(?:["`“«]|(?<!\p{L})').*/m
    ADDRESS = /[^\s<>@,;:]+@[^\s<>@,;:]+/
    LEFT_OUT = "…"
    MOST_LETTERS = 400
    LINES_OF_A_TRACE = 12

    # One line for a terminal.
    LINE = ->(log, _logger) do
      told = [log.time.utc.strftime("%F %T.%L"), log.level.to_s[0].upcase, "#{SemanticLogger.application}[#{Process.pid}]"]
      told += log.named_tags.map { |name, value| "#{name}=#{value}" }
      told << "#{log.duration.round(1)}ms" if log.duration
      trace = log.payload&.fetch(:trace, nil)
      fields = log.payload&.except(:trace)&.map { |name, value| "#{name}=#{value}" }
      [[*told, log.message, *fields].join(" ").gsub(/[[:cntrl:]]/, "?"), *trace].join("\n  ")
    end

    class << self
      # Until then nothing is written anywhere.
      # @param part [String] the process, as bin/nimble knows it
      # @return [SemanticLogger::Subscriber] where it writes, to be taken away again
      def begin(part, io: $stderr, json: ENV["NIMBLE_LOG"] == "json")
        # The last words before a crash are written too: no thread holds them back.
        SemanticLogger.sync!
        SemanticLogger.application = part
        SemanticLogger.default_level = ENV.fetch("NIMBLE_LOG_LEVEL", "info").to_sym
        SemanticLogger.add_appender(io: io, formatter: json ? :json : LINE)
      end

      # @param words [String] without anything of a person
      # @param error [Exception, nil]
      # @param fields [Hash] numbers and names of our own
      def error(words, error = nil, **fields) = logger.error(message: words, payload: payload(error, fields))

      def warn(words, error = nil, **fields) = logger.warn(message: words, payload: payload(error, fields))

      # @param duration [Float] milliseconds
      def info(words, duration: nil, **fields) = logger.info(message: words, duration: duration, payload: fields)

      def debug(words, duration: nil, **fields) = logger.debug(message: words, duration: duration, payload: fields)

      # Every line that is written meanwhile carries these.
      def with(**named, &) = SemanticLogger.named_tagged(named, &)

      # @param words [String]
      # @return [String] without what is quoted in it, what comes after that, and addresses
      def scrubbed(words) = words.scrub("?").gsub(QUOTED, LEFT_OUT).gsub(ADDRESS, LEFT_OUT)[0, MOST_LETTERS]

      private

      def logger = @logger ||= SemanticLogger["Nimble"]

      def payload(error, fields)
        return fields unless error

        {
          **fields,
          error: error.class.name,
          said: scrubbed(error.message.to_s),
          trace: error.backtrace&.first(LINES_OF_A_TRACE)&.map { |line| line.delete_prefix("#{ROOT}/") }
        }.compact
      end
    end
  end
end
