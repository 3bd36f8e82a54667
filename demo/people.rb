# frozen_string_literal: true

module NimbleLetter
  module Demo
    # Fills the demo firm's records, with the blemishes that real ones have. The same seed gives the same people.
    class People
      COUNT = 600
      ZONES = {
        "Ireland" => "Europe/Dublin",
        "France" => "Europe/Paris",
        "United States" => "America/New_York",
        "India" => "Asia/Kolkata"
      }.freeze

      # @param owner [Records::Owner] for the firm's own fields
      def initialize(since:, owner:, random: Random.new(20_251_110))
        @since, @owner, @random = since, owner, random
      end

      def fill
        @owners = Records::Account.order(:id).select_map(:id)
        @tags = Words::TAGS.map { |name| Records::Tag.named(name) }
        companies = make_companies
        rows = COUNT.times.map { |n| person(n, companies) }
        rows.concat(doubles(rows))
        Records.db[:people].multi_insert(rows.map { |row| row.except(:tags) })
        put_tags(rows)
        make_deals
        fill_own_fields
        follow_nos
      end

      private

      def make_companies
        Words::COMPANIES.flat_map do |type, rule|
          fronts, backs = rule[:parts]
          fronts.product(backs).sample(rule[:count], random: @random).map do |front, back|
            name = "#{"The " if type == "restaurant" && chance(0.4)}#{front.tr("-", " ")} #{back}"
            Records::Company.create(name: name, type: type, city: pick(Words::CITIES), created_at: @since)
          end
        end
      end

      def person(n, companies)
        company = chance(0.95) ? pick(companies) : nil
        first, last = (n % 75 == 74) ? Words::ELSEWHERE[n / 75 % Words::ELSEWHERE.size] : [pick(Words::FIRST), pick(Words::LAST)]
        country, zone = abroad
        created = @since - @random.rand(1..400) * 86_400
        standing = standing_for(company)
        values = {
          company_id: company&.id,
          owner_id: chance(0.96) ? pick(@owners.first(3)) : nil,
          standing: standing,
          title: chance(0.05) ? pick(%w[Dr Prof.]) : nil,
          first_name: chance(0.035) ? nil : first,
          last_name: last,
          city: chance(0.03) ? nil : (company&.city || pick(Words::CITIES)),
          country: country,
          time_zone: zone,
          job_title: company && pick(Words::JOBS.fetch(company.type)),
          email: chance(0.02) ? nil : address(first, last, company, n),
          phone: chance(0.6) ? format("01632 960%03d", n % 1000) : nil,
          consent: pick(%w[yes yes yes unknown unknown unknown unknown unknown no]),
          consent_on: created.to_date,
          consent_how: pick(Words::CONSENTS),
          added_on: created.to_date,
          standing_since: created.to_date + @random.rand(0..20),
          do_not_mail: chance(0.012),
          address_failed: false,
          region: nil,
          language: "en",
          birthday: chance(0.35) ? Date.new(1950 + @random.rand(52), 1, 1) + @random.rand(365) : nil,
          known_as: chance(0.04) ? first[0, 3] : nil,
          name_order: (n % 75 == 74 && first.match?(/\p{Han}|\p{Hiragana}/)) ? "family_first" : "given_first",
          fitted_on: (standing == "client" || standing == "former_client") ? (created.to_date + @random.rand(10..200)) : nil,
          created_at: created,
          updated_at: created,
          last_activity_at: nil,
          last_activity_kind: nil,
          version: 1
        }
        values[:region] = Words::REGIONS[values[:city]]
        Records::Person.with_folds(values, company_name: company&.name).merge(tags: tags)
      end

      def abroad = chance(0.06) ? pick(ZONES.to_a) : ["United Kingdom", "Europe/London"]

      def standing_for(company)
        return "partner" if company&.type == "architect"

        pick(%w[lead lead lead lead lead client client client former_client])
      end

      def address(first, last, company, number)
        plain = [first, last].map { |name| Core::Fold.call(name).gsub(/[^a-z]/, "") }.reject(&:empty?).join(".")
        plain = "post#{number}" if plain.empty?
        house = company ? Core::Fold.call(company.name).gsub(/[^a-z]/, "")[0, 24] : "home-#{number}"
        "#{plain}@#{house}.example"
      end

      # The same human twice, under a shorter name.
      def doubles(rows)
        rows.select { |row| row[:email] }.sample(7, random: @random).map do |row|
          row.merge(
            Records::Person.with_folds(row.slice(*Records::Person::FOLDED).merge(first_name: row[:first_name].to_s[0], city: nil)),
            standing: "lead",
            tags: []
          )
        end
      end

      def tags = @tags.select { chance(0.14) }

      def put_tags(rows)
        ids = Records.db[:people].order(:id).select_map(:id)
        pairs = rows.zip(ids).flat_map { |row, id| row[:tags].map { |tag| [id, tag.id] } }
        Records.db[:people_tags].import(%i[person_id tag_id], pairs)
      end

      def make_deals
        stages = Core::Fields::Catalogue::DEAL_STAGES.keys
        Records.db[:people]
          .where(standing: %w[lead client])
          .exclude(company_id: nil)
          .order(:id)
          .select(:id, :company_id, :standing, :owner_id)
          .all
          .sample(140, random: @random)
          .each do |row|
            stage = (row[:standing] == "client") ? "signed" : pick(stages - ["signed"])
            Records::Deal.create(
              person_id: row[:id],
              company_id: row[:company_id],
              name: pick(["Dining room", "Hall", "Meeting rooms", "Live room", "Ceiling"]),
              stage: stage,
              value_pence: @random.rand(4..95) * 10_000,
              created_at: @since,
              updated_at: @since,
              owner_id: row[:owner_id],
              expected_on: (%w[signed lost].include?(stage) ? nil : Date.new(2026, 5, 18) + @random.rand(90)),
              closed_on: (%w[signed lost].include?(stage) ? @since.to_date + @random.rand(150) : nil)
            )
          end
      end

      # What one record says holds for all with its address.
      def follow_nos
        Work::NoAtAddress.follow(Records.db[:people].select_map(:email_fold), Work::Moment.new(now: @since))
      end

      # The firm's own fields: how somebody likes to be reached, and how high a company's room is.
      def fill_own_fields
        moment = Work::Moment.new(now: @since)
        Work::OwnField.make(
          {label: "Likes to be reached", type: "choice", choices: ["by letter", "by phone", "in person"]},
          moment: moment
        )
        Work::OwnField.make({label: "Ceiling height in metres", type: "number", subject: "company"}, moment: moment)
        Records::CustomField.where(made: false).each { |field| Work::MakeColumns.new(@owner).call(field) }
        Records.db[:people]
          .order(:id)
          .select_map(:id)
          .each do |id|
            Records.db[:people].where(id: id).update(x_likes_to_be_reached: pick(%w[by_letter by_phone in_person])) if chance(0.3)
          end
        Records.db[:companies]
          .select_map(:id)
          .each do |id|
            Records.db[:companies].where(id: id).update(x_ceiling_height_in_metres: BigDecimal(@random.rand(22..68)) / 10) if chance(0.5)
          end
      end

      def pick(list) = list[@random.rand(list.size)]

      def chance(share) = @random.rand < share
    end
  end
end
