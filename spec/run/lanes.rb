# frozen_string_literal: true

require_relative "built_demo"
require_relative "times"

module SpecRun
  # Runs every spec in lanes side by side, each with a database and a browser of its own. What needs no page comes first: meanwhile the
  # demo is built, if this state of it never was.
  class Lanes
    COUNT = 2
    PAGES = "spec/system/"

    # @param var [String] where lanes keep what is theirs
    # @param keep_times [Boolean] whether to keep the times in the project
    def initialize(var, keep_times: false)
      @var, @keep_times = var, keep_times
      @remembered = File.join(var, "examples.txt")
    end

    # @return [Boolean] whether every spec is green
    def run
      files = Dir.glob("spec/**/*_spec.rb").sort
      lanes = start(files)
      yield
      green = lanes.map { |lane| Process.wait2(lane[:pid]).last.success?.tap { show(lane) } }.all?
      Times.read(@remembered).keep(files) if green && @keep_times
      green
    ensure
      [@demo, *lanes&.map { |lane| lane[:pid] }].compact.each { |pid| stop(pid) }
    end

    private

    def start(files)
      times = Times.read(@remembered)
      pages, others = files.partition { |file| file.start_with?(PAGES) }
      @demo = Process.spawn("ruby", "-r./spec/run/built_demo", "-e", "SpecRun::BuiltDemo.new.ready", pgroup: true)
      Process.detach(@demo)
      shares = times.shares(others, COUNT).zip(times.shares(pages, COUNT).reverse)
      shares.map.with_index { |parts, i| lane(i, parts) }
    end

    # One after the other, and the second even when something in the first is red.
    def lane(i, parts)
      var, log = File.join(@var, "lane-#{i + 1}"), File.join(@var, "lane-#{i + 1}.log")
      commands = parts.reject(&:empty?).map { |part| "bundle exec rspec #{part.join(" ")} || red=1" }
      script = "red=0; #{commands.join("; ")}; exit $red"
      {log: log, pid: Process.spawn({"NIMBLE_TEST_VAR" => var}, "sh", "-c", script, out: log, err: %i[child out], pgroup: true)}
    end

    def show(lane)
      puts "\n== Specs, #{File.basename(lane[:log], ".log")}"
      puts File.read(lane[:log])
    end

    # As Ctrl-C does: an example that is under way ends, and then its server does. Specs of signals take TERM for themselves.
    def stop(pid)
      Process.kill(:INT, -pid)
      Process.wait(pid)
    rescue Errno::ESRCH, Errno::ECHILD
      # It has ended already.
    end
  end
end
