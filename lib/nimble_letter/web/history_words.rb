# frozen_string_literal: true

module NimbleLetter
  module Web
    # An event in words, for a person's history.
    class HistoryWords
      WORDS = {
        "sent" => "Had “%<letter>s”", "opened" => "Opened “%<letter>s”", "clicked" => "Clicked in “%<letter>s”", "replied" => "Replied",
        "answered_automatically" => "Answered automatically", "bounced" => "The address failed", "bounced_softly" => "A letter could not be delivered for now",
        "failed" => "“%<letter>s” could not be sent", "refused" => "The address was refused", "unsubscribed" => "Asked not to be written to", "complained" => "Complained about a letter",
        "joined" => "Joined “%<sequence>s”", "left" => "Left “%<sequence>s”", "finished" => "Went through “%<sequence>s”", "converted" => "Converted: %<label>s",
        "note" => "Note"
      }.freeze
      LEFT = {"replied" => "after a reply", "unsubscribed" => "asked for no letters", "bounced" => "the address failed", "refused" => "the address was refused",
              "converted" => "converted", "taken_out" => "taken out by hand", "stopped" => "the sequence was stopped", "complained" => "after a complaint"}.freeze

      # @param events [Array<Records::Event>]
      def initialize(events)
        @events = events
        @letters = Records::Letter.where(id: events.map(&:letter_id).compact.uniq).select_hash(:id, :name)
        @sequences = Records::Sequence.where(id: events.map(&:sequence_id).compact.uniq).select_hash(:id, :name)
        @accounts = Records::Account.where(id: events.map(&:account_id).compact.uniq).select_hash(:id, :name)
      end

      # @return [Array<Hash>] see History in openapi.yaml
      def entries = @events.map { |event| entry(event) }

      private

      def entry(event)
        data = event.data || {}
        {id: event.id, kind: event.kind, at: event.occurred_at, words: words(event, data), detail: detail(event, data), delivery_id: event.delivery_id,
         sequence_id: event.sequence_id, by: @accounts[event.account_id], by_machine: event.by_machine}
      end

      def words(event, data)
        return status_words(data) if event.kind == "status_moved"
        return change_words(data) if event.kind == "field_changed"

        format(WORDS.fetch(event.kind, event.kind.tr("_", " ").capitalize), letter: @letters[event.letter_id], sequence: @sequences[event.sequence_id], label: data["label"])
      end

      def status_words(data)
        words = Work::MemberStatus::LADDER.rungs.to_h { |rung| [rung.key, rung.words] }
        "Status: #{words[data["to"]]}"
      end

      def change_words(data)
        return "Record made" if data["field"] == "record"
        return data["to"] ? "Tagged #{data["to"]}" : "Tag #{data["from"]} taken off" if data["field"] == "tag"

        "#{data["field"].delete_suffix("_id").tr("_", " ").capitalize}: #{data["from"].to_s.empty? ? "nothing" : data["from"]} → #{data["to"].to_s.empty? ? "nothing" : data["to"]}"
      end

      def detail(event, data)
        case event.kind
        when "left" then LEFT[data["reason"]]
        when "clicked" then data["link"]
        when "note" then data["text"]
        when "status_moved" then data["by_hand"] ? "by hand" : nil
        when "replied", "answered_automatically", "unsubscribed" then data["incoming_id"] && Records::Incoming.where(id: data["incoming_id"]).get(:text)&.slice(0, 400)
        else data["words"] || data["reason"]
        end
      end
    end
  end
end
