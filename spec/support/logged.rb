# frozen_string_literal: true

require "stringio"

# What the parts say about themselves while something is done.
module Logged
  # @return [String]
  def logged(json: false)
    io = StringIO.new
    appender = Log.begin("spec", io: io, json: json)
    yield
    io.string
  ensure
    SemanticLogger.remove_appender(appender)
  end
end

RSpec.configure { |config| config.include Logged }
