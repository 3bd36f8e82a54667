# frozen_string_literal: true

module NimbleLetter
  module Work
    # The actual letters of one step for actual people, before and after the start.
    class Stack
      PAGE = 1000

      # @param step [Records::Step]
      def initialize(step, moment)
        @step, @sequence, @moment = step, step.sequence, moment
      end

      # @param after [Integer] person id the last page ended with
      # @return [Hash] totals and rows: person, mark, when
      def list(after: 0)
        rows = all_rows
        page = rows.select { |row| row[:person_id] > after }.first(PAGE)
        {total: rows.size, with_gaps: rows.count { |row| row[:gaps].any? }, personal: rows.count { |row| row[:personal] },
         rows: page, next_after: (page.last[:person_id] if page.any? && page.last != rows.last)}
      end

      # @param person [Records::Person]
      # @return [Hash] the merged letter, its sender and its time
      def letter(person)
        delivery = Records::Delivery.first(step_id: @step.id, person_id: person.id)
        return as_it_went(delivery, person) if delivery&.state == "sent"

        mailbox = delivery&.mailbox || Sender.new(@sequence.sender).for(person)
        line = Records::PersonalLine.first(step_id: @step.id, person_id: person.id)&.line
        merged = @step.letter.merge.call(@moment.facts.for_letter(person, mailbox), personal_line: line)
        {person_id: person.id, mailbox: mailbox && {address: mailbox.address, name: mailbox.name}, signature: mailbox ? mailbox.signature(@moment.firm) : [],
         line: line, state: delivery&.state || "planned", goes_at: delivery&.sent_at || delivery&.due_at || planned_at(person), time_zone: person.time_zone || @moment.firm.time_zone,
         **MergedJson.write(merged), text: Core::Letters::TextWriter.write(merged, signature: mailbox ? mailbox.signature(@moment.firm) : [])}
      end

      # @param line [String, nil] an empty one takes it away
      # @raise [Invalid] once the letter is out
      def write_line(person, line)
        if Records::Delivery.where(step_id: @step.id, person_id: person.id).exclude(state: Records::Delivery::CALLED_BACK).any?
          raise Invalid.new("This letter is out already.", code: :already_out)
        end
        lines = Records.db[:personal_lines]
        if line.to_s.strip.empty? then lines.where(step_id: @step.id, person_id: person.id).delete
        else
          lines.on_duplicate_key_update(:line, :account_id, :updated_at)
            .insert(step_id: @step.id, person_id: person.id, line: line.strip, account_id: @moment.account&.id, updated_at: @moment.now)
        end
      end

      private

      # Records change; a letter that is out is shown as it was.
      def as_it_went(delivery, person)
        lines = ->(words) { [{kind: "text", text: words, field: nil, label: nil, marks: [], href: nil}] }
        blocks = delivery.text.split(/\n{2,}/).map { |words| {kind: "paragraph", runs: lines.call(words), items: [], ordered: false} }
        {person_id: person.id, mailbox: {address: delivery.mailbox.address, name: delivery.mailbox.name}, signature: [], line: nil, state: delivery.state, goes_at: delivery.sent_at,
         time_zone: person.time_zone || @moment.firm.time_zone, subject: lines.call(delivery.subject), preview: [], blocks: blocks, gaps: [], text: delivery.text}
      end

      def all_rows = @sequence.draft? ? planned_rows : delivery_rows

      def outlook = @outlook ||= Outlook.new(@sequence, @moment)

      def planned_rows
        rows_for(outlook.rows.map { |row| [row.person, row.passage.find { |step, _| step.id == @step.id }.last, "planned"] }, outlook.gaps(@step))
      end

      def delivery_rows
        deliveries = Records::Delivery.where(step_id: @step.id).order(:person_id).select(:person_id, :state, :due_at, :sent_at).all
        people = Records::Person.where(id: deliveries.map(&:person_id)).as_hash(:id)
        rows_for(deliveries.map { |delivery| [people[delivery.person_id], delivery.sent_at || delivery.due_at, delivery.state] }, open_gaps(deliveries, people))
      end

      # A letter that is out has no gaps any more: it was not sent with one.
      def open_gaps(deliveries, people)
        needed = @step.letter.fields_without_fallback.reject { |key| key.start_with?("sender.") }
        still_due = deliveries.select { |delivery| Records::Delivery::STILL_DUE.include?(delivery.state) }.map { |delivery| people[delivery.person_id] }
        facts = needed.empty? ? {} : @moment.facts.for_people(still_due)
        facts.transform_values { |known| needed.select { |key| Core::Letters::Values.say(known[key]).nil? } }
      end

      def rows_for(entries, gaps)
        companies = Records::Company.where(id: entries.map { |person, _| person.company_id }.compact.uniq).select_hash(:id, :name)
        personal = Records::PersonalLine.of_step(@step.id)
        entries.map do |person, at, state|
          {person_id: person.id, name: person.name, company: companies[person.company_id], gaps: gap_labels(gaps[person.id]), personal: personal.key?(person.id), goes_at: at, state: state}
        end
      end

      def gap_labels(keys) = (keys || []).map { |key| {field: key, label: Records::FieldCatalogue.current[key].label} }

      def planned_at(person) = outlook.rows.find { |row| row.person.id == person.id }&.passage&.find { |step, _| step.id == @step.id }&.last
    end
  end
end
