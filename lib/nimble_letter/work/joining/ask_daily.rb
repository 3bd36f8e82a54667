# frozen_string_literal: true

module NimbleLetter
  module Work
    # Live rules that time alone can make true are asked once a day, by one statement a rule; and whoever waits, whether they still must.
    module AskDaily
      SLICE = 500
      # Days that were missed are made up for, so many of them at most.
      MOST_DAYS = 31

      # @return [Integer] rules that were asked
      def self.round(moment)
        Records::JoinRule.listening.where(Sequel.|({asked_on: nil}, Sequel[:asked_on] < moment.today)).all.count do |rule|
          # What cannot be asked is shown, and asked again tomorrow.
          PutAside.guard("round", "joining #{rule.id}", at: moment.now) { ask(rule, moment) }
          Records::JoinRule.where(id: rule.id).update(asked_on: moment.today)
        end
      end

      def self.ask(rule, moment)
        (meant(rule, moment) | rule.waits.select_map(:person_id)).each_slice(SLICE) do |some|
          Records.db.transaction do
            joined = JoinPeople.new(rule, moment).call(some)
            LiveFilter.new(rule, moment).known(joined) if rule.kind == "filter"
          end
        end
      end
      private_class_method :ask

      # @return [Array<Integer>] people
      def self.meant(rule, moment)
        case rule.kind
        when "filter" then LiveFilter.new(rule, moment).begun
        when "yearly" then days(rule, moment).flat_map { |day| on(day, rule, moment) }.uniq
        else []
        end
      end
      private_class_method :meant

      def self.days(rule, moment)
        first = rule.asked_on ? rule.asked_on + 1 : moment.today
        [first, moment.today - MOST_DAYS].max..moment.today
      end
      private_class_method :days

      # People whose date comes round so many days after that day; negative: came round so many days before it.
      def self.on(day, rule, moment)
        sql = Records::ConditionSql.new(now: moment.now, today: day - rule.settings["days"])
        test = {"field" => rule.settings["field"], "is" => "yearly_in_next", "value" => 1}
        Records::Person.kept.where(sql.read(moment.parser.parse!(test))).select_order_map(Sequel[:people][:id])
      end
      private_class_method :on
    end
  end
end
