# frozen_string_literal: true

module SpecRun
  # How long each file of specs took, in seconds: as it was here last, or as it is kept in the project for who runs them first.
  class Times
    KEPT = File.join(__dir__, "times.txt")
    # A file nobody has timed yet is taken for a long one, so that it does not come last.
    UNKNOWN_SECONDS = 20.0

    # A line of what RSpec remembers of each example: "./spec/a_spec.rb[1:2] | passed | 0.12 seconds |".
    EXAMPLE = /\A\.\/(\S+?)\[[\d:]+\]\s*\|\s*\w+\s*\|\s*([\d.]+) seconds?/

    # @param remembered [String] the file RSpec remembers examples in; it may be missing
    def self.read(remembered)
      here = lines(remembered).filter_map { |line| line.match(EXAMPLE)&.captures }
      kept = lines(KEPT).to_h { |line| line.split.then { |file, seconds| [file, seconds.to_f] } }
      new(kept.merge(here.group_by(&:first).transform_values { |examples| examples.sum { |_, seconds| seconds.to_f } }))
    end

    def self.lines(path) = File.exist?(path) ? File.readlines(path, chomp: true) : []
    private_class_method :lines

    # @param seconds [Hash{String=>Float}] by file
    def initialize(seconds)
      @seconds = seconds
    end

    def [](file) = @seconds.fetch(file, UNKNOWN_SECONDS)

    # Shares files so that each share takes about as long: the longest first, each to the share that has least.
    # @param files [Array<String>]
    # @param count [Integer] of shares
    # @return [Array<Array<String>>]
    def shares(files, count)
      shares = Array.new(count) { [] }
      files.sort_by { |file| [-self[file], file] }.each { |file| shares.min_by { |share| share.sum { |one| self[one] } } << file }
      shares
    end

    # Keeps them in the project.
    # @param files [Array<String>] those there are
    def keep(files) = File.write(KEPT, files.sort.map { |file| format("%s %.1f\n", file, self[file]) }.join)
  end
end
