# frozen_string_literal: true

require "fileutils"

module NimbleLetter
  module Processes
    # Which processes belong to a folder: each leaves its id and the time it began there, so that a start that finds the
    # processes of one that was killed knows them for its own, and nobody else's by mistake.
    class OwnProcesses
      END_SECONDS = 10

      # @param var [String] the folder
      def initialize(var)
        @folder = File.join(var, "processes")
      end

      # @param name [String]
      # @param pid [Integer]
      def note(name, pid)
        FileUtils.mkdir_p(@folder)
        File.write(path(name), "#{pid} #{began(pid)}")
      end

      def forget(name) = FileUtils.rm_f(path(name))

      # @return [Hash{String=>Integer}] those of an earlier start that still run, by name
      def left_behind
        Dir
          .children(@folder)
          .to_h { |name| [name, Integer(name_of(name)[:pid], exception: false)] }
          .compact
          .select { |name, pid| ours?(name, pid) }
      rescue Errno::ENOENT
        {}
      end

      # Ends them, by their ids, and waits until they are gone.
      # @return [Array<String>] their names
      def end_left_behind
        left = left_behind
        left.each_value { |pid| signal(:TERM, pid) }
        left.each { |name, pid| wait_for(name, pid) }
        left.keys
      end

      private

      def path(name) = File.join(@folder, name.tr(" ", "_"))

      def name_of(name) = %i[pid began].zip(File.read(File.join(@folder, name)).split).to_h

      # A number that has been given to another process since is not ours.
      def ours?(name, pid) = (now = began(pid)) && now == name_of(name)[:began]

      # Field 22 of proc(5): when the process began, in ticks since the machine did. The second field may hold anything, so
      # what is read stands behind its last bracket. A process that has ended and waits for its parent counts as gone.
      def began(pid)
        fields = File.read("/proc/#{pid}/stat").rpartition(")").last.split
        fields[19] unless fields[0] == "Z"
      rescue Errno::ENOENT, Errno::ESRCH
        nil
      end

      def wait_for(name, pid)
        deadline = now + END_SECONDS
        while ours?(name, pid)
          signal(:KILL, pid) if now > deadline
          IO.select(nil, nil, nil, 0.05)
        end
        FileUtils.rm_f(File.join(@folder, name))
      end

      def signal(name, pid)
        Process.kill(name, pid)
      rescue Errno::ESRCH
        # It has ended already.
      end

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    end
  end
end
