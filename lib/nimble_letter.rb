# frozen_string_literal: true

require "bootsnap"

# What Ruby made of a file is kept beside the gems, so that the next process begins in half the time; a changed file is read again.
File.expand_path("../vendor/read", __dir__).then do |kept|
  Bootsnap.setup(cache_dir: kept, development_mode: true, compile_cache_yaml: false, readonly: !File.writable?(File.dirname(kept)))
end

require "zeitwerk"

# Nimble Letter: shared records, letters with merge fields, sequences over days, and honest figures of what came back.
# Loading this file loads nothing else; each layer is loaded when it is first named.
module NimbleLetter
  ROOT = File.expand_path("..", __dir__)
  # Semantic Versioning 2.0
  VERSION = File.read(File.join(ROOT, "VERSION")).strip
  # Folders that group files by concept and say nothing of their constants' names.
  ROOMS = %w[records/* work/* post/* web/json web/words web/site web/routes/*].freeze

  # What a caller can be told: a machine-readable code, a sentence, where it is, and what to do about it.
  class Error < StandardError
    attr_reader :code, :at, :hint, :data

    # @param message [String] a plain sentence
    # @param code [Symbol] stable name for the API
    # @param at [String, nil] path of the offending value, e.g. "body.content[2]"
    # @param hint [String, nil] the next move
    # @param data [Hash] anything the caller needs to act on
    def initialize(message, code: :not_possible, at: nil, hint: nil, data: {})
      super(message)
      @code, @at, @hint, @data = code, at, hint, data
    end
  end

  # What was sent is not what can be taken in.
  class Invalid < Error
    def initialize(message, code: :invalid, **rest) = super
  end

  # There is no such record.
  class NotFound < Error
    def initialize(message, code: :not_found, **rest) = super
  end

  # Whoever asks may not do this, or not without their password.
  class Forbidden < Error
    def initialize(message, code: :not_allowed, **rest) = super
  end

  # Somebody else changed the record since it was read.
  class Conflict < Error
    def initialize(message, code: :changed_meanwhile, **rest) = super
  end

  # The demo firm, under demo/.
  module Demo
  end

  class << self
    attr_reader :loader

    # @return [Zeitwerk::Loader] set up once
    def set_up_loader
      @loader ||= Zeitwerk::Loader.for_gem(warn_on_extra_files: false).tap do |loader|
        loader.push_dir(File.join(ROOT, "demo"), namespace: Demo)
        loader.collapse(ROOMS.map { |rooms| File.join(__dir__, "nimble_letter", rooms) })
        loader.setup
      end
    end
  end
end

NimbleLetter.set_up_loader
