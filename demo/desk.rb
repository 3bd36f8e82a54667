# frozen_string_literal: true

module NimbleLetter
  module Demo
    # What colleagues of the demo firm do with the replies of a week: sort them, record what came of the warm ones, and do their tasks.
    class Desk
      VALUES = [18_000, 24_000, 95_000, 240_000, 410_000].freeze # pence

      def initialize(moment) = @moment = moment

      # @param keep_since [Time] newer replies stay unread, so that there is something to do
      def go_through_replies(keep_since:)
        Records::Incoming.to_read.where(kind: "reply").where { received_at < keep_since }.order(:id).each { |incoming| handle(incoming) }
      end

      # @param keep_since [Time] newer tasks stay open
      def go_through_tasks(keep_since:)
        Records::Task.where(state: "open").where { made_at < keep_since }.order(:id).each do |task|
          # Most are reached in the end, and some of them want to know more.
          outcome = Plans::OUTCOMES[(task.id * 7) % 5 % Plans::OUTCOMES.size]
          Work::DoTask.call(task, outcome: outcome, note: nil, version: task.version, moment: @moment)
        end
      end

      private

      def handle(incoming)
        tone = Practice::ReplyMail::WORDS.find { |_, texts| texts.include?(incoming.text) }&.first
        case tone
        when :warm then warm(incoming)
        when :later then incoming.update(sort: "later")
        else incoming.update(sort: "no")
        end
      end

      def warm(incoming)
        return incoming.update(sort: "interested") unless incoming.id.even?

        Work::Conversion.call(incoming, label: "visit booked", value_pence: VALUES[incoming.id % VALUES.size], moment: @moment)
        person = incoming.person
        return unless person.standing == "lead" && (incoming.id % 4).zero?

        Work::ChangePerson.call(person, {"person.standing" => "client"}, version: person.version, moment: @moment)
      end
    end
  end
end
