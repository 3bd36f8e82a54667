# frozen_string_literal: true

module NimbleLetter
  module Web
    # An event in words, for a person's history.
    class HistoryWords
      WORDS = {
        "sent" => "Had “%<letter>s”",
        "opened" => "Opened “%<letter>s”",
        "clicked" => "Clicked in “%<letter>s”",
        "replied" => "Replied",
        "answered_automatically" => "Answered automatically",
        "bounced" => "The address failed",
        "bounced_softly" => "A letter could not be delivered for now",
        "failed" => "“%<letter>s” could not be sent",
        "refused" => "The address was refused",
        "unsubscribed" => "Asked not to be written to",
        "complained" => "Complained about a letter",
        "joined" => "Joined “%<sequence>s”",
        "left" => "Left “%<sequence>s”",
        "skipped" => "“%<letter>s” was passed by",
        "finished" => "Went through “%<sequence>s”",
        "converted" => "Converted: %<label>s",
        "note" => "Note",
        "call" => "Call",
        "merged" => "Merged with another record of the same person",
        "imported" => "Brought in from a file"
      }.freeze
      LEFT = {
        "in_the_bin" => "the record was put in the bin",
        "address_blocked" => "the address is on the do-not-mail list",
        "no_at_address" => "another record with this address said no",
        "same_address" => "another member has this address",
        "do_not_mail" => "asked not to be written to",
        "address_failed" => "the address failed before",
        "no_consent" => "said no to letters",
        "merged" => "merged with another record",
        "replied" => "after a reply",
        "unsubscribed" => "asked for no letters",
        "bounced" => "the address failed",
        "refused" => "the address was refused",
        "converted" => "converted",
        "no_date" => "has not the date a step is about",
        "taken_out" => "taken out by hand",
        "stopped" => "the sequence was stopped",
        "complained" => "after a complaint"
      }.freeze

      BY = {
        "bulk" => "changed together with others",
        "import" => "from a file",
        "undo" => "taken back",
        "merge" => "from a merged record"
      }.freeze
      # What a history can be narrowed to.
      ABOUT = {
        "letters" => %w[sent failed opened clicked bounced bounced_softly refused],
        "answers" => %w[replied answered_automatically unsubscribed complained converted],
        "notes" => %w[note call],
        "record" => %w[field_changed merged imported],
        "sequences" => %w[joined left finished skipped status_moved]
      }.freeze

      # @return [Array<String>] event kinds
      # @raise [Invalid]
      def self.kinds(about) = ABOUT.fetch(about) { raise Invalid.new("A history is about one of #{ABOUT.keys.join(", ")}.", at: "about") }

      # @param events [Array<Records::Event>]
      def initialize(events)
        @events = events
        @catalogue = Records::FieldCatalogue.current
        @owners = Records::Account.select_hash(:id, :name)
        @incoming = Records::Incoming.where(id: events.filter_map { |event| event.data&.[]("incoming_id") }).select_hash(:id, :text)
        @letters = Records::Letter.where(id: events.map(&:letter_id).compact.uniq).select_hash(:id, :name)
        @sequences = Records::Sequence.where(id: events.map(&:sequence_id).compact.uniq).select_hash(:id, :name)
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
        return "Answered automatically: away until #{Date.iso8601(data["away_until"]).strftime("%-d %b %Y")}" if data["away_until"]

        format(
          WORDS.fetch(event.kind, event.kind.tr("_", " ").capitalize),
          letter: @letters[event.letter_id],
          sequence: @sequences[event.sequence_id],
          label: data["label"]
        )
      end

      def status_words(data) = "Status: #{Work::MemberStatus::LADDER.words(data["to"])}"

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

      def detail(event, data)
        case event.kind
        when "left" then LEFT[data["reason"]]
        when "clicked" then data["link"]
        when "note" then data["text"]
        when "call" then [data["outcome"], data["text"]].compact.join(": ")
        when "field_changed" then BY[data["by"]] || data["how"]
        when "status_moved" then data["by_hand"] ? "by hand" : nil
        when "replied", "answered_automatically", "unsubscribed" then @incoming[data["incoming_id"]]&.slice(0, 400)
        else data["words"] || data["reason"]
        end
      end
    end
  end
end
