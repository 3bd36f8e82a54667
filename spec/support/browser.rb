# frozen_string_literal: true

require "capybara/rspec"
require "axe-rspec"
require "tmpdir"
require_relative "../run/built_demo"
require_relative "../run/chromium"

# Headless Chromium on a copy of the demo firm, one for all examples in spec/system.
module Browser
  # Between two examples the page is empty; a process for each of these turns, and a spare one, took a third of a second.
  ONE_PROCESS = %w[--process-per-site --disable-features=SpareRendererForSitePerProcess].freeze

  class << self
    def configuration
      @configuration ||=
        Configuration.new(
          ENV.to_h.merge(
            "NIMBLE_VAR" => TestDatabase.configuration.var,
            "NIMBLE_DATABASE" => SpecRun::BuiltDemo::DATABASE,
            "PORT" => Processes::Ports.any.to_s,
            "SMTP_PORT" => Processes::Ports.any.to_s,
            "LOOKUP_PORT" => Processes::Ports.any.to_s,
            "DB_PORT" => TestDatabase.configuration.db_port.to_s
          )
        )
    end

    # Before a server runs: its database comes as files.
    def take_demo
      TestDatabase.end_left_behind(Processes::DatabaseServer.new(configuration))
      SpecRun::BuiltDemo.new.copy_to(configuration.var)
    end

    def open
      return if @children

      TestDatabase.serve(configuration)
      @children = Processes::Children.new(configuration)
      @children.start("post-office", port: configuration.smtp_port)
      @children.start("lookups", port: configuration.lookup_port)
      @children.start("web", port: configuration.port)
      @children.start("worker")
      @children.start("clerk")
      Capybara.app_host = configuration.public_url
      at_exit { @children.stop }
    end
  end
end

Selenium::WebDriver.logger.level = :error
# The other way to run it gives the browser one second to load a page for each frame, which a busy machine does not keep.
# The only frames hold letters as mail programs show them; the page around them is what is looked at.
Axe::Configuration.instance.legacy_mode = true
Capybara.register_driver(:chromium) do |app|
  profile = Dir.mktmpdir("nimble-browser")
  at_exit { FileUtils.rm_rf(profile) }
  options = SpecRun::Chromium.options(profile, "--force-prefers-reduced-motion", "--window-size=1280,800", *Browser::ONE_PROCESS)
  options.add_option("goog:loggingPrefs", {browser: "ALL"})
  # What is seen is asked of ChromeDriver, instead of by a script of 40 kB for each element.
  Capybara::Selenium::Driver.new(app, browser: :chrome, options: options, service: SpecRun::Chromium.service, native_displayed: true)
end
Capybara.configure do |config|
  config.run_server = false
  config.default_driver = :chromium
  # Ends as soon as what is waited for is there; only what never comes takes so long. Ten seconds are enough for one lane, and once were
  # not for two lanes with two browsers on two busy processors.
  config.default_max_wait_time = 20
  # Asking a hundred times a second whether something is there takes the processor from what is to put it there.
  config.default_retry_interval = 0.05
  config.enable_aria_label = true
  # Every letter is typed, as people do: the quicker way writes behind the back of the page.
  config.default_set_options = {rapid: false}
end

# What a person does on the page.
module OnThePage
  WCAG = %i[wcag2a wcag2aa wcag21aa wcag22aa].freeze

  # Nothing is in the way of anybody who cannot see or use it well, as far as a program can tell. Letters in their frames are what mail
  # programs show; the page around them is what is looked at.
  def accessible(of: be_axe_clean.according_to(*WCAG)) =
    expect(page).to(of.excluding("iframe").with_options(resultTypes: %w[violations]))

  # With their numbers the words have come to where they stay.
  def show_replies(words)
    expect(page).to have_css("[aria-label='Sorted as'] button", text: /Automatic \d/)
    within("nav[aria-label='Sorted as']") { click_button words }
  end

  # The page itself, so that keys are not typed into a field; a screen listens once its title is there.
  def press(*keys)
    find("main h1")
    # So soon after typing a letter is no command.
    expect(page).to have_no_css("html[data-typing]")
    find("body").send_keys(*keys)
  end

  def clock_words = find("[data-testid=practice-clock]").text

  # A day of practice is a day's post: every letter of it goes over the wire and is read.
  def move_clock(button)
    before = clock_words
    click_button button
    expect(page).to have_no_css("[data-testid=practice-clock]", exact_text: before, wait: 180)
    expect(page).to have_button(button, disabled: false, wait: 180)
  end

  # The letter as somebody gets it, within its frame. A letter that is changed for another takes its frame along, and with it what was
  # looked for in it: then the new one is looked at, as long as anything is waited for.
  def on_the_sheet(&)
    waited_for = Capybara.default_max_wait_time
    begun = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    begin
      within_frame(find("iframe[title='The letter']")) { using_wait_time(2, &) }
    rescue RSpec::Expectations::ExpectationNotMetError, Capybara::ElementNotFound, Selenium::WebDriver::Error::WebDriverError
      raise if Process.clock_gettime(Process::CLOCK_MONOTONIC) - begun > waited_for

      retry
    end
  end

  def choose_in_sentence(opener, field)
    click_button opener
    within("[role=dialog]") { click_button field, exact: true }
  end
end

RSpec.configure do |config|
  config.define_derived_metadata(file_path: %r{/spec/system/}) { |metadata| metadata[:type] = :feature }
  config.include OnThePage, type: :feature
  config.before(:suite) do
    Browser.take_demo if RSpec.world.filtered_examples.values.flatten.any? { |example| example.metadata[:type] == :feature }
  end
  config.before(:context, type: :feature) { Browser.open }
  # In every example nothing went wrong in the page, and it did nothing that its policy forbids.
  config.after(:each, type: :feature) do
    complaints = page.driver.browser.logs.get(:browser).map(&:message).grep(/Content.Security.Policy|Uncaught/)
    expect(complaints).to eq([])
  end
end
