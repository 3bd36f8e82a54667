# frozen_string_literal: true

# What soak.rb does: the processes, their troubles, and the account of what came of it.
class HardLife
  include Builders

  PARTS = {"web" => "web", "worker 1" => "worker", "worker 2" => "worker", "sender" => "sender", "clerk" => "clerk"}.freeze
  KILL_EVERY_SECONDS = 14.0..26.0
  BATCH_EVERY_SECONDS = 25
  BATCH_PEOPLE = 60
  MAIL_EVERY_SECONDS = 0.7
  LOOK_EVERY_SECONDS = 0.1
  CLOCK_STEP_SECONDS = 20 * 60
  CLOCK_EVERY_SECONDS = 1.0
  # How many of a hundred talks go wrong somewhere, and how. A silent server holds a lane up for a minute, so it is rare.
  RUDE_SHARE = 12
  RUDE = [
    ["RCPT", "550 5.1.1 no such user"],
    ["RCPT", "451 4.3.0 later"],
    ["RCPT", "554 5.7.1 relaying denied"],
    ["RCPT", :drop],
    ["RCPT", "garbage"],
    ["MAIL", "450 not now"],
    ["MAIL", "550 5.1.8 sender rejected"],
    ["MAIL", {last: "421 closing"}],
    ["DATA", "451 no"],
    ["DATA", "554 no"],
    ["DATA", "250 what"],
    ["DATA", :drop],
    ["text", :drop],
    ["text", {last: "552 5.3.4 too big"}],
    [".", "451 4.3.0 later"],
    [".", "554 5.7.1 spam"],
    [".", "550 5.1.1 user unknown"],
    [".", :drop],
    [".", "2OO garbage"],
    [".", {last: "421 closing"}]
  ].freeze
  SILENT_OF_RUDE = 0.01

  def initialize(minutes:, seed:)
    @seconds, @random = minutes * 60, Random.new(seed)
    @configuration =
      Configuration.new(
        ENV.to_h.merge(
          "NIMBLE_VAR" => "var-soak",
          "NIMBLE_DATABASE" => "nimble_letter_soak",
          **%w[PORT DB_PORT SMTP_PORT LOOKUP_PORT].to_h { |name| [name, Processes::Ports.any.to_s] }
        )
      )
    @kills, @restarts, @pages, @mail = Hash.new(0), Hash.new(0), Hash.new(0), []
    @away = @longest_away = 0.0
    @killed_at, @odd_answers = Hash.new(-999.0), Hash.new(0)
    @lock = Mutex.new
  end

  def live
    set_up
    threads =
      [method(:watch), method(:kill), method(:look), method(:send_mail), method(:move_clock), method(:keep_busy),
        method(:look_at_letters)].map do |work|
        background(&work)
      end
    sleep(@seconds)
    @over = true
    threads.each(&:join)
    settle
    account
  ensure
    @over = true
    @children&.stop
    @post_office&.close
    @server&.stop(@server.running_pid)
  end

  private

  def now_seconds = Process.clock_gettime(Process::CLOCK_MONOTONIC)

  def background
    Thread.new do
      until @over
        begin
          yield
        rescue *Records::Patience::AWAY
          sleep(0.3)
        rescue Sequel::DatabaseError => error
          @odd_answers[error.message[0, 120]] += 1
        end
      end
    end
  end

  def set_up
    FileUtils.rm_rf(@configuration.var)
    @server = Processes::DatabaseServer.new(@configuration)
    @server.start
    Records.connect(@configuration)
    Records.migrate(@configuration)
    Records::Firm.save(
      name: "Tern & Fallow Acoustics",
      postal_address: "4 Felt Yard, York",
      time_zone: "Europe/London",
      holidays_of: "gb_eng",
      guard: nil
    )
    @clock = Practice::Clock.new
    @clock.set(NOW)
    @maildir = Post::Maildir.new(@configuration.maildir)
    @boxes = Array.new(6) { make_mailbox(daily_limit: 2000) }
    @account = make_account
    @welcome = Records::Tag.named("welcome")
    @joined = start(make_sequence(people: [make_person(time_zone: nil)], mailbox: @boxes.first, letters: letters))
    Work::KeepRule.make(@joined, {kind: "tag", settings: {tag_id: @welcome.id}, live: true}, moment: moment(NOW))
    @post_office = RudeServer.new(port: @configuration.smtp_port) { |heard, _line, talk| misbehave(heard, talk) }
    @children = Processes::Children.new(@configuration)
    PARTS.each { |name, part| @children.start(part, as: name, port: (@configuration.port if part == "web")) }
  end

  # One fate a talk; well-behaved once the hard life is over.
  def misbehave(heard, talk)
    return if @over

    @lock.synchronize do
      if heard == "MAIL"
        talk[:fate] = (@random.rand(100) < RUDE_SHARE) ? RUDE.sample(random: @random) : nil
        talk[:fate] = [talk[:fate].first, :silence] if talk[:fate] && @random.rand < SILENT_OF_RUDE
      elsif heard == "greeting" && @random.rand(100) == 0
        next ["554 5.7.1 go away", :drop, "garbage"].sample(random: @random)
      end
      place, answer = talk[:fate]
      answer if place == heard
    end
  end

  # What the supervisor does.
  def watch
    unless @server.running_pid || @server.answering?
      @restarts["mariadbd"] += 1
      @server.start
    end
    @children.look_after.each { |name| @restarts[PARTS.fetch(name)] += 1 }
    sleep(0.3)
  end

  def kill
    sleep(@random.rand(KILL_EVERY_SECONDS))
    return if @over

    name = [*PARTS.keys, "mariadbd"].sample(random: @random)
    pid = (name == "mariadbd") ? @server.running_pid : @children.pids[name]
    return unless pid

    @killed_at[name] = now_seconds
    Process.kill(:KILL, pid)
    @kills[PARTS.fetch(name, name)] += 1
  rescue Errno::ESRCH
    nil
  end

  # Somebody at the page.
  def look
    code = Net::HTTP.start("127.0.0.1", @configuration.port, open_timeout: 2, read_timeout: 15) { |http| http.get("/api/session").code }
    code = "503 #{reason_for_away}" if code == "503"
    @pages[code] += 1
    @away = nil
  rescue SystemCallError, IOError, Timeout::Error => error
    @pages[error.is_a?(Timeout::Error) ? "no answer in time" : "not there"] += 1
    @away ||= now_seconds
    @longest_away = [@longest_away, now_seconds - @away].max
  ensure
    sleep(LOOK_EVERY_SECONDS)
  end

  # While its database is away or the web itself has just been started, a page says "not just now".
  def reason_for_away
    recently = ->(name) { now_seconds - @killed_at[name] < 20 }
    return "while the database was away" if recently.call("mariadbd")

    recently.call("web") ? "while the web came up" : "for no reason"
  end

  def move_clock
    @clock.advance_to(@clock.now + CLOCK_STEP_SECONDS) unless @clock.target
    sleep(CLOCK_EVERY_SECONDS)
  end

  # More people to write to, and something for the clerk.
  def keep_busy
    people = Array.new(BATCH_PEOPLE) { make_person(time_zone: nil) }
    sequence = make_sequence(people: people, mailbox: @boxes.sample(random: @random), letters: [])
    plan = @random.rand(2).zero? ? two_letters : forked
    Work::PlanSequence.change(sequence, {version: sequence.version, steps: plan}, moment: moment(@clock.now))
    start(sequence.refresh, at: @clock.now)
    act = Work::Act.new({"kind" => "tag", "names" => ["batch #{sequence.id}"]}, moment(@clock.now))
    Work::ChangeMany.start(act, Records::Person.dataset, moment: moment(@clock.now))
    welcome(people)
    change_a_plan
    BATCH_EVERY_SECONDS.times { @over || sleep(1) }
  end

  # They join by themselves.
  def welcome(people)
    Records::BulkInsert.call(:people_tags, people.map { |person| {person_id: person.id, tag_id: @welcome.id} })
  end

  # Of one that runs: another time for its first step, and a letter more.
  def change_a_plan
    running = Records::Sequence.where(state: "running").exclude(id: @joined.id).all.sample(random: @random) or return
    steps = PlanInput.of(running)
    steps.first["amount"] = @random.rand(4)
    steps << step("letter", 1, letter_id: letters.first.id)
    change = Work::ChangePlan.new(running, moment(@clock.now))
    change.propose({steps: steps}, version: running.proposal_version)
    change.effect(version: running.refresh.proposal_version)
  rescue Invalid, Conflict
    nil # it has ended meanwhile
  end

  def step(kind, hours = 0, **more) =
    {"kind" => kind, "amount" => hours, "unit" => "hours", "from_minute" => 0, "to_minute" => 1440, "days" => "any",
     **more.transform_keys(&:to_s)}

  def two_letters = letters.zip([0, 5]).map { |letter, hours| step("letter", hours, letter_id: letter.id) }

  # Members that are carried on by reactions, by conditions and by time, and changed on the way.
  def forked
    first, second = letters
    quiet = {"field" => "person.tags", "is" => "one_of", "value" => ["quiet"]}
    [
      step("letter", letter_id: first.id),
      {"kind" => "fork", "within" => {"amount" => 5, "unit" => "hours", "from_minute" => 0, "to_minute" => 1440, "days" => "any"},
       "lanes" => [
         {"test" => {"kind" => "opened"}, "steps" => [step("task", words: "Ring them", waits: false)]},
         {"test" => nil, "steps" => [step("change", what: "tag", to: {"names" => ["quiet"]})]}
       ]},
      step("letter", 2, letter_id: second.id, only_for: {"not" => quiet}),
      step("change", 1, what: "standing", to: {"standing" => "partner"})
    ]
  end

  # Some of those who have a letter look at it.
  def look_at_letters
    delivery = Records::Delivery.where(state: "sent").order(Sequel.lit("RAND()")).first
    Work::Touch.call("opened", delivery, at: @clock.now, by_machine: @random.rand(3).zero?) if delivery
    sleep(MAIL_EVERY_SECONDS / 3)
  end

  def letters = @letters ||= [make_letter, make_letter(name: "A second word", body: "Dear {{first name|there}}, [once more].")]

  # Three of four are ordinary answers; the rest is what somebody's mail program made of one.
  def send_mail
    delivery = Records::Delivery.where(state: "sent").order(Sequel.lit("RAND()")).first
    if delivery
      nth = @mail.size
      answer =
        "From: Ana <#{delivery.person.email}>\r\nTo: #{delivery.mailbox.address}\r\nSubject: Re: A word\r\n" \
        "Message-ID: <soak.#{nth}@copperladle.example>\r\nIn-Reply-To: <#{delivery.message_id}>\r\n\r\nYes please, number #{nth}.\r\n"
      odd = @random.rand(4).zero?
      @mail << {name: @maildir.deliver(odd ? odd_mail(answer) : answer), odd: odd, person_id: delivery.person_id}
    end
    sleep(MAIL_EVERY_SECONDS)
  end

  FIXTURES = Dir[File.join(ROOT, "spec/fixtures/mail/*.eml")].sort.map { |path| File.binread(path) }.freeze

  # A fixture or an answer with bytes changed, cut, doubled or nested.
  def odd_mail(answer)
    raw =
      [answer, *FIXTURES].sample(random: @random)
        .b
        .gsub(/^Message-ID:.*$/i) { |line| @random.rand(2).zero? ? line : "Message-ID: <odd.#{@random.rand(10**9)}@x>" }
    @random.rand(1..6).times do
      at = @random.rand(raw.bytesize + 1)
      case @random.rand(5)
      when 0 then raw.insert(at, @random.bytes(@random.rand(1..20)))
      when 1 then raw.slice!(at, @random.rand(1..60))
      when 2 then raw.insert(at, raw.byteslice(@random.rand(raw.bytesize + 1), 80).to_s)
      when 3 then raw.insert(at, ["<", ">", ",", ";", "\0", "=?utf-8?B?", "--x\r\n", "\r\n", "On " * 2000].sample(random: @random).b)
      when 4 then raw = "Content-Type: multipart/mixed; boundary=x#{at}\r\n\r\n--x#{at}\r\n".b + raw
      end
    end
    raw
  end

  # The hard life is over: everybody gets the time to come to an end of what they had begun.
  def settle
    deadline = now_seconds + 600
    until now_seconds > deadline
      begin
        watch
        open = open_letters.count
        work = Records::ChangeSet.unfinished.exclude(id: Records::SetAside.left_alone("act").map(&:to_i)).count
        break if open.zero? && work.zero? && @maildir.waiting.empty? && to_be_carried_on.empty?

        @clock.advance_to(@clock.now + 6 * 3600) unless @clock.target
      rescue *Records::Patience::AWAY
        nil
      end
      sleep(0.5)
    end
  end

  # What is still to come by itself: nobody is written to any further whose last letter is in doubt or set aside.
  def open_letters
    in_doubt = Records::Delivery.where(state: "in_doubt").select(:member_id)
    Records::Delivery.where(state: %w[due claimed on_wire]).not_waiting.exclude(member_id: in_doubt)
  end

  def to_be_carried_on = Records::Member.active.exclude(due_at: nil)

  # What stands with a letter is what its events say.
  def account_of_what_was_heard
    told = Records::Event.by_people.where(kind: Core::Results::Heard::KINDS).exclude(delivery_id: nil).select_map(%i[delivery_id kind])
    told = told.uniq.group_by(&:first).transform_values { |some| Core::Results::Heard.bits(*some.map(&:last)) }
    kept = Records::Delivery.exclude(heard: 0).select_hash(:id, :heard)
    say "heard of %d letters; otherwise than their events say: %d", told.size, (told.to_a - kept.to_a).size + (kept.to_a - told.to_a).size
  end

  # Nobody has a step twice, and what is told is what was done.
  def account_of_steps
    done = Records::Event.where(kind: %w[sent step_done lane_taken])
    twice = done.group_and_count(:member_id, :step_id).all.count { |row| row[:count] > 1 }
    changes = Records::Step.where(kind: "change").select(:id)
    by_sequence = Records::Event.where(kind: "step_done", step_id: changes).distinct.select_map(:person_id)
    worn = Records.db[:people_tags].join(:tags, id: :tag_id).where(name: "quiet").select_map(:person_id)
    partners = Records::Person.where(standing: "partner").select_map(:id)
    say "steps: %s; had twice: %d; told and not done: %d; done and not told: %d; tasks: %d, of %d told",
      words(done.group_and_count(:kind).as_hash(:kind, :count)), twice, (by_sequence - worn - partners).size,
      ((worn | partners) - by_sequence).size, Records.db[:tasks].count,
      Records::Event.where(kind: "step_done", step_id: Records::Step.where(kind: "task").select(:id)).count
  end

  # Whoever got the tag is in it once, or may not be written to; and nobody is left behind in an older plan.
  def account_of_joining
    tagged = Records::Person.where(Sequel[:people][:id] => Records.db[:people_tags].where(tag_id: @welcome.id).select(:person_id))
    in_it = Records::Member.where(sequence_id: @joined.id).exclude(rule_id: nil)
    refused = Sequel.|({do_not_mail: true}, {address_failed: true}, {no_at_address: true})
    newest = Records::FrozenPlan.group(:sequence_id).select_hash(:sequence_id, Sequel.function(:max, :number).as(:number))
    in_doubt = Records::Delivery.where(state: "in_doubt").select(:member_id)
    behind = Records::Member.active.exclude(id: in_doubt).select_map(%i[sequence_id plan])
    say "joined by a rule: %d of %d; more than once: %d; not at all: %d; plans changed: %d; left in an older plan: %d",
      in_it.count, tagged.count, in_it.group_and_count(:person_id).all.count { |row| row[:count] > 1 },
      tagged.exclude(Sequel[:people][:id] => in_it.select(:person_id)).exclude(refused).count, newest.values.sum - newest.size,
      behind.count { |id, plan| plan < newest.fetch(id) }
  end

  def account
    taken = @post_office.taken.map { |text| text[/^Message-ID:\s*<([^@>]+)@/i, 1] }.tally
    states = Records::Delivery.select_map(%i[key state])
    of = ->(*wanted) { states.select { |_, state| wanted.include?(state) }.map(&:first) }
    arrived = ->(key) { taken.fetch(key, 0) }
    waiting = Records::SetAside.where(kind: "letter").count
    open = open_letters.count
    active = Records::Member.active.exclude(id: Records::Delivery.where(state: %w[due claimed on_wire in_doubt]).select(:member_id))
    adrift =
      active.where(due_at: nil).exclude(
        id: Records::Delivery.where(id: Records::SetAside.exclude(delivery_id: nil).select(:delivery_id)).select(:member_id)
      ).count
    say "%d kills (%s); started again: %s", @kills.values.sum, words(@kills), words(@restarts)
    say "letters: %d written down, %s", states.size, words(states.map(&:last).tally)
    say "  written to twice: %d", taken.count { |_, times| times > 1 }
    say "  called sent and never arrived: %d", of.call("sent").count { |key| arrived.call(key).zero? }
    say "  arrived and not called sent or in doubt: %d",
      of.call("due", "claimed", "failed", "skipped").count { |key| arrived.call(key).positive? }
    say "  in doubt: %d, of which %d had arrived",
      of.call("in_doubt").size,
      of.call("in_doubt").count { |key| arrived.call(key).positive? }
    say "  set aside: %d; still open: %d; members that nothing moves: %d", waiting, open, adrift
    account_of_what_was_heard
    account_of_steps
    account_of_joining
    account_of_mail
    say "page: %s; the longest time without an answer %.1f s", words(@pages), @longest_away
    acts = Records::ChangeSet.group_and_count(:state).as_hash(:state, :count)
    say "acts on many records: %s", words(acts)
    say "what the database said that it should not: %s", words(@odd_answers) if @odd_answers.any?
    say "set aside: %s", words(Records::SetAside.group_and_count(:kind).as_hash(:kind, :count))
    Records::SetAside.exclude(kind: "letter").limit(8).each { |aside| say "  %s %s: %s", aside.kind, aside.key, aside.reason }
  end

  def account_of_mail
    taken_in = Records::Incoming.select_map(:file_key).to_set
    aside = Records::SetAside.where(kind: "mail").select_map(:key).to_set
    ordinary = @mail.reject { |one| one[:odd] }
    cur = Dir.children(File.join(@maildir.path, "cur")).to_set { |name| name.delete_suffix(":2,S") }
    lost = ordinary.count { |one| !taken_in.include?(one[:name]) }
    nowhere = @mail.count { |one| !cur.include?(one[:name]) && !aside.include?(one[:name]) }
    twice =
      Records::Event
        .where(kind: "replied")
        .select_map(:data)
        .map { |data| JSON.parse(data)["incoming_id"] }
        .tally
        .count { |_, times| times > 1 }
    say "mail: %d ordinary answers, %d odd ones; answers lost: %d; taken in twice: %d; neither read nor set aside: %d",
      ordinary.size,
      @mail.size - ordinary.size,
      lost,
      twice,
      nowhere
  end

  def words(counts) = counts.map { |name, count| "#{count} #{name}" }.join(", ")

  def say(words, *values) = puts(format(words, *values))
end
