# frozen_string_literal: true

module NimbleLetter
  module Web
    # An event in words, for a person's history.
    class HistoryWords
      # @return [Array<String>] event kinds
      # @raise [Invalid]
      def self.kinds(about)
        all = HistoryTable::ABOUT
        all.fetch(about) { raise Invalid.new("A history is about one of #{all.keys.join(", ")}.", at: "about") }
      end

      # @param events [Array<Records::Event>]
      # @param moment [Work::Moment]
      def initialize(events, moment)
        @events, @moment = events, moment
        @catalogue = Records::FieldCatalogue.current
        @statuses = Work::MemberStatus.all.to_h { |rung| [rung.key, rung.words] }
        @owners = Records::Account.select_hash(:id, :name)
        @incoming = Records::Incoming.where(id: events.filter_map { |event| event.data&.[]("incoming_id") }).select_hash(:id, :text)
        @letters = Records::Letter.where(id: events.map(&:letter_id).compact.uniq).select_hash(:id, :name)
        @sequences = Records::Sequence.where(id: events.map(&:sequence_id).compact.uniq).select_hash(:id, :name)
        @steps = Records::Step.where(id: events.map(&:step_id).compact.uniq).eager(:letter, :sequence).all.to_h { |step| [step.id, step] }
        @accounts = Records::Account.where(id: events.map(&:account_id).compact.uniq).select_hash(:id, :name)
      end

      # @return [Array<Hash>] see History in openapi.yaml
      def entries = @events.map { |event| entry(event) }

      private

      def entry(event)
        data = event.data || {}
        {
          id: event.id,
          kind: event.kind,
          at: event.occurred_at,
          words: words(event, data),
          detail: detail(event, data),
          delivery_id: event.delivery_id,
          sequence_id: event.sequence_id,
          by: @accounts[event.account_id],
          by_machine: event.by_machine
        }
      end

      def words(event, data)
        return status_words(data) if event.kind == "status_moved"
        return change_words(data) if event.kind == "field_changed"
        return "A step of “#{@sequences[event.sequence_id]}” was passed by" if event.kind == "skipped" && event.letter_id.nil?
        return "Answered automatically: away until #{Date.iso8601(data["away_until"]).strftime("%-d %b %Y")}" if data["away_until"]

        format(
          HistoryTable::WORDS.fetch(event.kind, event.kind.tr("_", " ").capitalize),
          letter: @letters[event.letter_id],
          sequence: @sequences[event.sequence_id],
          label: data["label"] || data["words"]
        )
      end

      def status_words(data) = "Status: #{@statuses.fetch(data["to"], data["to"])}"

      def change_words(data)
        field, from, to = data.values_at("field", "from", "to")
        case field
        when "record" then (to == "made") ? "Record made" : "Record #{to}"
        when "tag", /\Atag:/ then put_on(data, "Tagged %s", "Tag %s taken off")
        when "list", /\Alist:/ then put_on(data, "Put on the list “%s”", "Taken off the list “%s”")
        when /\Aaddress:/ then "Further address #{field.delete_prefix(Work::RecordState::ADDRESS)} #{to ? "added" : "taken off"}"
        when "bin" then to ? "Put in the bin" : "Taken out of the bin"
        when "person.address_blocked" then to.to_s
        when "person.no_at_address" then "Wants letters again: #{data["how"]}"
        else "#{label(field)}: #{said(field, from)} → #{said(field, to)}"
        end
      end

      def day(field, date)
        said = Core::Fields::Saying.say(field, date)
        said.is_a?(Date) ? said.strftime("%-d %b %Y") : said
      end

      # One by one a change carries the name; from an act on many, true or false and the name beside it.
      def put_on(data, on, off)
        name = data["name"] || data["to"] || data["from"]
        taken_off = data["name"] ? data["to"] == false : data["to"].nil?
        format(taken_off ? off : on, name)
      end

      # A deal is named as it was then; every other field by the catalogue.
      def label(key)
        return key if key.include?(" ")

        if key == Work::RecordState::COMPANY.key
          "Company"
        else
          @catalogue[key]&.label || key.to_s.split(".").last.delete_suffix("_id").tr("_", " ").capitalize
        end
      end

      def said(key, value)
        return "nothing" if value.nil? || value == "" || value == []

        field = @catalogue[key]
        return value.to_s if field.nil? || value.is_a?(String) && field.type == :reference
        return day(field, Date.iso8601(value)) if field.type == :date

        Core::Fields::Saying.say(field, value, names: {owners: @owners}).to_s
      end

      def step_words(event)
        step = @steps[event.step_id] or return
        saying(step.sequence).headline(step)
      end

      def passed_by(event, reason) =
        [(step_words(event) unless event.letter_id), HistoryTable::PASSED_BY.fetch(reason, reason)].compact.join(": ")

      def lane_words(event, id)
        lane = Records::Lane[id] or return
        sequence = @steps[event.step_id]&.sequence and saying(sequence).lane(lane)
      end

      def saying(sequence) = (@saying ||= {})[sequence.id] ||= Work::StepWords.new(sequence, @moment)

      def detail(event, data)
        case event.kind
        when "left" then HistoryTable::LEFT[data["reason"]]
        when "clicked" then data["link"]
        when "note" then data["text"]
        when "call" then [data["outcome"], data["text"]].compact.join(": ")
        when "field_changed" then event.sequence_id ? "by “#{@sequences[event.sequence_id]}”" : HistoryTable::BY[data["by"]] || data["how"]
        when "skipped" then passed_by(event, data["reason"])
        when "lane_taken" then data["lane"] ? lane_words(event, data["lane"]) : "no lane fitted"
        when "step_done", "member_moved" then step_words(event)
        when "task_done" then [data["outcome"] && Work::OwnWords.say("outcomes", data["outcome"]), data["note"]].compact.join(": ")
        when "status_moved" then data["by_hand"] ? "by hand" : nil
        when "replied", "answered_automatically", "unsubscribed" then @incoming[data["incoming_id"]]&.slice(0, 400)
        else data["words"] || data["reason"]
        end
      end
    end
  end
end
