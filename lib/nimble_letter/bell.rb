# frozen_string_literal: true

require "fileutils"

module NimbleLetter
  # Wakes parts that sleep: one that has written something rings, and those of this machine look at the records at once. They look by
  # themselves every few seconds too, so a ring that is lost costs some seconds and nothing else.
  class Bell
    MOST_RINGS = 4096

    # @param folder [String] where those who listen have a named pipe each
    def initialize(folder)
      @folder = folder
    end

    # Listens from now on.
    # @return [IO] readable once somebody has rung
    def listen
      FileUtils.mkdir_p(@folder)
      @own = "#{Process.pid}-#{object_id}"
      beside = "#{@folder}-#{@own}"
      FileUtils.rm_f(beside)
      File.mkfifo(beside)
      @pipe = File.open(beside, File::RDWR | File::NONBLOCK)
      # Seen by others once there is somebody who listens, and in the place of one that was killed and had the same numbers.
      File.rename(beside, path(@own))
      @pipe
    end

    # What rang until now has been heard.
    def heard
      nil while @pipe.read_nonblock(MOST_RINGS, exception: false).is_a?(String)
    end

    # Wakes everybody but oneself.
    def ring
      (Dir.children(@folder) - [@own]).each { |name| ring_at(path(name)) } if File.directory?(@folder)
    end

    def close
      @pipe&.close
      FileUtils.rm_f(path(@own)) if @own
    end

    private

    def path(name) = File.join(@folder, name)

    def ring_at(path)
      File.open(path, File::WRONLY | File::NONBLOCK) { |pipe| pipe.write_nonblock(".", exception: false) }
    rescue Errno::ENXIO # its process has ended without a word
      FileUtils.rm_f(path)
    rescue Errno::ENOENT
      # It has just ended.
    end
  end
end
