# frozen_string_literal: true

require "selenium-webdriver"

module SpecRun
  # Debian's headless Chromium, for specs of the page and for the pictures of it.
  module Chromium
    ARGUMENTS = %w[
      --headless
      --no-sandbox
      --disable-gpu
      --disable-quic
      --no-first-run
      --disable-background-networking
      --disable-component-update
      --disable-sync
      --disable-dev-shm-usage
    ].freeze

    # @param profile [String] an empty folder
    # @param more [Array<String>] arguments
    def self.options(profile, *more) =
      Selenium::WebDriver::Chrome::Options.new(
        binary: "/usr/bin/chromium",
        args: [*ARGUMENTS, *more, "--user-data-dir=#{profile}"]
      )

    def self.service = Selenium::WebDriver::Service.chrome(path: "/usr/bin/chromedriver")
  end
end
