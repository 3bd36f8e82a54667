# frozen_string_literal: true

require "digest"
require "fileutils"
require "socket"

module SpecRun
  # The demo firm as specs of the page find it: built once for each state of what builds it, and copied, database and all, for each
  # browser. Half a year of a firm's life takes two minutes; its copy takes two seconds.
  class BuiltDemo
    ROOT = File.expand_path("../..", __dir__)
    WHAT_BUILDS_IT = %w[lib db demo starters bin/nimble Gemfile.lock].freeze
    DATABASE = "nimble_letter_demo"
    # What belongs to a server that runs; the rest is copied.
    OF_A_RUN = %w[db.pid db.sock db.log db-tmp db-files processes processes.log].freeze

    # @param folder [String] where it is kept for everybody
    def initialize(folder = File.join(ROOT, ENV.fetch("NIMBLE_VAR", "var-test"), "demo"))
      @folder = folder
    end

    # Builds it unless it is there; others wait meanwhile.
    # @return [String] the folder that holds it
    def ready
      FileUtils.mkdir_p(@folder)
      File.open(File.join(@folder, "lock"), File::RDWR | File::CREAT) do |lock|
        lock.flock(File::LOCK_EX)
        build unless File.directory?(path)
      end
      path
    end

    # @param var [String] whose database and letters are thrown away
    def copy_to(var)
      from = ready
      FileUtils.mkdir_p(var)
      Dir.children(from).each do |name|
        FileUtils.rm_rf(File.join(var, name))
        system("cp", "-a", "--reflink=auto", File.join(from, name), File.join(var, name), exception: true)
      end
    end

    # @return [String] of every file that has a say in it
    def state
      @state ||=
        WHAT_BUILDS_IT
          .flat_map { |name| File.file?(File.join(ROOT, name)) ? [name] : Dir.glob("#{name}/**/*", base: ROOT).sort }
          .reject { |name| File.directory?(File.join(ROOT, name)) }
          .each_with_object(Digest::SHA256.new) { |name, sum| sum << name << "\0" << File.binread(File.join(ROOT, name)) << "\0" }
          .hexdigest[0, 16]
    end

    private

    def path = File.join(@folder, state)

    def build
      (Dir.children(@folder) - ["lock"]).each { |older| FileUtils.rm_rf(File.join(@folder, older)) }
      half = "#{path}.half"
      ports = %w[PORT DB_PORT SMTP_PORT LOOKUP_PORT].to_h { |name| [name, free_port.to_s] }
      FileUtils.mkdir_p(half)
      log = File.join(half, "processes.log")
      settings = {"NIMBLE_VAR" => half, "NIMBLE_DATABASE" => DATABASE, **ports}
      built = system(settings, "bin/nimble", "demo", out: log, err: %i[child out], chdir: ROOT)
      raise "The demo was not built. Its last words, from #{log}:\n#{File.readlines(log).last(12).join}" unless built

      OF_A_RUN.each { |name| FileUtils.rm_rf(File.join(half, name)) }
      File.rename(half, path)
    end

    def free_port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }
  end
end
