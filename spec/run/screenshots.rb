# frozen_string_literal: true

require "tmpdir"
require_relative "../../lib/nimble_letter"
require_relative "built_demo"
require_relative "chromium"

module SpecRun
  # Takes one current picture of each main view from the demo firm as it is built, at 1280 by 800.
  class Screenshots
    FOLDER = File.join(NimbleLetter::ROOT, "docs", "screenshots")
    WIDTH, HEIGHT = 1280, 800

    # A letter in its frame, once it is there.
    FRAME = "[data-ready=true] iframe"
    QUIETER_SPRING = {
      subject: "A quieter spring at {{company}}?",
      preview: "Two recordings from one Friday night",
      body: [
        "Dear {{first name|there}},",
        "last month we measured a dining room two streets from you. On a Friday at eight it was louder than the tram outside. " \
        "Three panels later, people stay for coffee.",
        "Would you like to hear your own room like that?"
      ].join("\n\n")
    }.freeze
    BEFORE_IT_GOES = "section[aria-label='Before it goes']"

    # name: file name; path: where to go; see: what must be there; act: what to do before
    View = Struct.new(:name, :path, :see, :act, keyword_init: true)

    # @param var [String] a folder for the copy of the demo they are taken from
    def initialize(var)
      ports = %w[PORT DB_PORT SMTP_PORT LOOKUP_PORT].to_h { |name| [name, NimbleLetter::Processes::Ports.any.to_s] }
      @configuration =
        NimbleLetter::Configuration.new(ENV.to_h.merge(ports, "NIMBLE_VAR" => var, "NIMBLE_DATABASE" => BuiltDemo::DATABASE))
    end

    # Needs nothing running: database and processes are started for it and ended after it.
    def take
      BuiltDemo.new.copy_to(@configuration.var)
      server = NimbleLetter::Processes::DatabaseServer.new(@configuration)
      database = server.start
      NimbleLetter::Records.connect(@configuration)
      children = NimbleLetter::Processes::Children.new(@configuration)
      children.start("post-office", port: @configuration.smtp_port)
      children.start("lookups", port: @configuration.lookup_port)
      children.start("web", port: @configuration.port)
      Dir.mktmpdir { |profile| browse(profile) }
    ensure
      children&.stop
      server&.stop(database) if database
    end

    private

    def views
      running = NimbleLetter::Records::Sequence.first(name: "Quieter dining rooms").id
      draft = NimbleLetter::Records::Sequence.first(name: "Classrooms before summer")
      fork = draft.steps.find { |step| step.kind == "fork" }.id
      person = NimbleLetter::Records::Event.where(kind: "converted").order(Sequel.desc(:id)).get(:person_id)
      [
        View.new(name: "today", path: "/", see: "section"),
        View.new(name: "people", path: "/people", see: "section[aria-label='Who a letter would reach']", act: :restaurant_leads),
        View.new(name: "person", path: "/people/#{person}", see: "section[aria-label=History] ol"),
        View.new(name: "letters", path: "/letters", see: "tbody tr"),
        View.new(name: "letter", path: "/sequences/#{letter_to_leads}", see: BEFORE_IT_GOES),
        View.new(name: "sequences", path: "/sequences", see: "tbody tr"),
        View.new(name: "plan", path: "/sequences/#{running}", see: "aside #{FRAME}"),
        View.new(name: "plan-proposed", path: "/sequences/#{running}", see: "aside #{FRAME}", act: :propose),
        View.new(name: "rehearsal", path: "/sequences/#{draft.id}/rehearsal", see: "#lives"),
        View.new(name: "stack", path: "/stack/#{draft.steps.first.id}", see: FRAME, act: :next_gap),
        View.new(name: "start", path: "/sequences/#{draft.id}", see: "aside #{FRAME}", act: :start),
        View.new(name: "replies", path: "/replies", see: "article"),
        View.new(name: "results", path: "/results", see: "tbody tr"),
        View.new(name: "sequence-results", path: "/sequences/#{running}/results", see: "tbody tr"),
        View.new(name: "settings", path: "/settings", see: "tbody tr"),
        View.new(name: "plan-draft", path: "/sequences/#{draft.id}?step=#{fork}", see: "aside ol li"),
        View.new(name: "members", path: "/sequences/#{running}/members", see: "tbody tr", act: :first_member),
        View.new(name: "bring-in", path: "/files/#{fair_file}", see: "[role=tab]"),
        View.new(name: "people-dark", path: "/people", see: "[role=row]", act: :dark)
      ]
    end

    # A letter to the leads of one city, as it stands before it is sent.
    # @return [Integer] number of its sequence
    def letter_to_leads
      leads_in_york = {"person.standing" => ["lead"], "person.city" => ["York"]}
      audience = {"condition" => {"all" => leads_in_york.map { |field, is| {"field" => field, "is" => "one_of", "value" => is} }}}
      made = NimbleLetter::Work::PlanSequence.make(name: nil, audience: audience, letter: {}, moment: moment)
      letter = made.steps.first.letter
      written = QUIETER_SPRING.transform_values { |text| NimbleLetter::Core::Letters::Document.from_text(text).to_h }
      NimbleLetter::Work::WriteLetter.new(moment).change(letter, {version: letter.version, **written})
      made.id
    end

    def moment
      maren = NimbleLetter::Records::Account.order(:id).first
      NimbleLetter::Work::Moment.new(now: NimbleLetter::Demo::Story::ENDS, account: maren)
    end

    # A file on its way in, checked and not taken in yet.
    # @return [Integer] its number
    def fair_file
      fair = File.join(NimbleLetter::ROOT, "demo", "files", "spring-fair.csv")
      receiving = NimbleLetter::Work::ReceiveImport.new(@configuration.imports, moment)
      import = File.open(fair, "rb") { |file| receiving.receive(file, name: "spring-fair.csv") }
      import = receiving.read_again(import, {"order" => "dmy"}, version: import.version)
      NimbleLetter::Work::StartImport.check(
        import,
        receiving.columns(import).map { |column| column[:field] },
        {},
        version: import.version,
        folder: @configuration.imports,
        moment: moment
      )
      NimbleLetter::Work::Clerk.new(@configuration.imports, NimbleLetter::Records::Owner.new(@configuration)).finish(moment.now)
      import.id
    end

    def browse(profile)
      @browser = Selenium::WebDriver.for(:chrome, options: Chromium.options(profile, "--hide-scrollbars"), service: Chromium.service)
      sign_in
      views.each { |view| picture(view) }
    ensure
      @browser&.quit
    end

    def sign_in
      go("/", "form")
      fit
      @browser.find_element(css: "button.word").click
      @browser.find_element(css: "button[type=submit]").click
      wait("nav[aria-label=Places]")
    end

    # The window is larger than the page by the browser's own frame.
    def fit
      @browser.manage.window.resize_to(WIDTH, HEIGHT)
      size = @browser.execute_script("return [window.innerWidth, window.innerHeight]")
      @browser.manage.window.resize_to(2 * WIDTH - size[0], 2 * HEIGHT - size[1]) if size != [WIDTH, HEIGHT]
    end

    def picture(view)
      go(view.path, view.see)
      send(view.act) if view.act
      settle
      @browser.save_screenshot(File.join(FOLDER, "#{view.name}.png"))
    end

    # The first letter once more, which nobody gets before it takes effect.
    def propose
      @browser.find_elements(css: "button[data-step]").first.click
      @browser.find_element(css: "body").send_keys("c")
      wait("section[aria-label='What is proposed']")
    end

    def restaurant_leads
      @browser.find_element(css: "button[aria-label='Saved filters']").click
      @browser.find_elements(css: "[role=dialog] button").find { |button| button.text.start_with?("Restaurant leads") }.click
      wait("[role=row][aria-rowindex='4']")
      @browser.find_element(css: "[role=row][aria-rowindex='4']").click
      wait("section[aria-label=Why] li")
    end

    def next_gap
      @browser.find_element(css: "body").send_keys("g")
      wait("[aria-current=true] .text-error")
      wait(FRAME)
    end

    def first_member
      @browser.find_element(css: "tbody button").click
      wait("aside ol")
    end

    def start
      @browser.find_element(css: "body").send_keys("s")
      wait("dialog[open] li")
    end

    def dark
      @browser.execute_script("localStorage.setItem('nimble.theme', 'night')")
      go("/people", "[role=row]")
    end

    def go(path, see)
      @browser.get("#{@configuration.public_url}#{path}")
      wait(see)
    end

    def wait(css)
      Selenium::WebDriver::Wait.new(timeout: 15).until { @browser.find_elements(css: css).any? }
    end

    # Fonts have come and nothing is loading any more, nor in the frame around: what waits at a place, and the next post.
    def settle
      ["nav[aria-label=Places] .text-error", "[aria-label=\"The post\"] [role=img]"].each { |css| wait(css) }
      Selenium::WebDriver::Wait.new(timeout: 15).until do
        @browser.execute_script("return document.fonts.status === 'loaded' && !document.querySelector('[aria-label=Loading]')")
      end
    end
  end
end

SpecRun::Screenshots.new("var-test/screenshots").take
