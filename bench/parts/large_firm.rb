# frozen_string_literal: true

module Bench
  # 200,000 people with companies, deals, tags, lists and a year of events: what the figures are measured on. The same
  # seed gives the same firm.
  module LargeFirm
    COMPANIES = 5000
    KINDS = %w[sent sent sent sent opened opened clicked replied].freeze
    STANDINGS = %w[lead lead client partner].freeze

    module_function

    def fill
      have = Records.db[:people].count
      return if have >= PEOPLE && Records.db[:events].count >= EVENTS

      raise Error, "#{have} people are there; remove the folder var-bench to begin anew" if have.positive?

      puts "Filling #{PEOPLE} people and #{EVENTS} events"
      @random = Random.new(1)
      accounts
      companies
      (1..PEOPLE).each_slice(5000) { |numbers| people(numbers) }
      marks
      deals
      sequences
      (1..EVENTS).each_slice(10_000) { |numbers| events(numbers) }
      Records.db.run("ANALYZE TABLE people, companies, events, deals, people_tags, list_people, members")
    end

    def accounts = 5.times { |n| Records::Account.create(email: "c#{n}@house.example", name: "Colleague #{n}", created_at: NOW) }

    def companies
      rows = Array.new(COMPANIES) { |n| ["House #{n}", "house #{n}", %w[restaurant school studio office][n % 4], "York", "york", NOW] }
      Records.db[:companies].import(%i[name name_fold type city city_fold created_at], rows)
    end

    def people(numbers)
      Records.db[:people].multi_insert(numbers.map { |n| person(n) })
    end

    def person(n)
      company = @random.rand(1..COMPANIES)
      values = {
        company_id: company,
        owner_id: (n % 5) + 1,
        standing: STANDINGS[n % 4],
        first_name: Demo::Words::FIRST[n % Demo::Words::FIRST.size],
        last_name: "Lark#{n}",
        city: Demo::Words::CITIES[@random.rand(Demo::Words::CITIES.size)],
        country: "United Kingdom",
        job_title: (n % 3).zero? ? nil : "Owner",
        email: "p#{n}@house#{company}.example",
        phone: (n % 2).zero? ? format("01632 %06d", n) : nil,
        consent: %w[yes unknown unknown no][n % 4],
        do_not_mail: (n % 97).zero?,
        address_failed: (n % 53).zero?,
        birthday: (n % 3).zero? ? Date.new(1950 + n % 50, 1, 1) + n % 365 : nil,
        fitted_on: (n % 4 == 2) ? TODAY - n % 900 : nil,
        added_on: TODAY - n % 700,
        last_activity_at: (n % 5).zero? ? nil : NOW - @random.rand(31_536_000),
        last_activity_kind: (n % 5).zero? ? nil : "opened",
        created_at: NOW,
        updated_at: NOW
      }
      Records::Person.with_folds(values, company_name: "House #{company - 1}")
    end

    def marks
      tags = %w[press referred].map { |name| Records::Tag.named(name).id } + Array.new(20) { |n| Records::Tag.named("tag #{n}").id }
      lists = Array.new(3) { |n| Records::List.create(name: "List #{n}", created_at: NOW, updated_at: NOW).id }
      (1..PEOPLE).each_slice(20_000) do |numbers|
        Records.db[:people_tags].import(
          %i[person_id tag_id],
          numbers.flat_map { |n| [[n, tags[n % tags.size]], [n, tags[(n * 7 + 1) % tags.size]]].uniq }
        )
        Records.db[:list_people].import(%i[list_id person_id], numbers.select { |n| (n % 6).zero? }.map { |n| [lists[n % 18 / 6], n] })
      end
    end

    def deals
      stages = Core::Fields::Catalogue::DEAL_STAGES.keys
      (1..PEOPLE / 4).each_slice(10_000) do |numbers|
        rows =
          numbers.map { |n| [n * 4, "Room #{n}", "room #{n}", stages[n % stages.size], (n % 500) * 10_000, TODAY + n % 200 - 100, NOW] }
        Records.db[:deals].import(%i[person_id name name_fold stage value_pence expected_on created_at], rows)
      end
    end

    def sequences
      box = Records::Mailbox.create(address: "hello@house.example", name: "House", proved_at: NOW)
      ids =
        Array.new(3) do |n|
          Records::Sequence.create(
            name: "Sequence #{n}",
            audience: {},
            sender: {},
            leave_on: [],
            state: "running",
            created_at: NOW,
            updated_at: NOW
          ).id
        end
      (1..PEOPLE / 10).each_slice(10_000) do |numbers|
        rows = numbers.map { |n| [ids[n % 3], n * 10, box.id, %w[active left finished][n % 3], NOW, NOW, %w[sent replied][n % 2]] }
        Records.db[:members].import(%i[sequence_id person_id mailbox_id state base joined_at status], rows)
      end
    end

    # One person has 2,000 of them, for the history.
    def events(numbers)
      rows =
        numbers.map do |n|
          [
            KINDS[n % 8],
            (n <= 2000) ? 7 : @random.rand(1..PEOPLE),
            NOW - @random.rand(0..31_536_000),
            (n % 8).zero? ? 3 : n % 3 + 1,
            n % 3 + 1,
            (n % 40 == 6) ? '{"link":"https://house.example/a"}' : nil
          ]
        end
      Records.db[:events].import(%i[kind person_id occurred_at letter_id sequence_id data], rows)
    end
  end
end
