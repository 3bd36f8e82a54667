# frozen_string_literal: true

module NimbleLetter
  module Work
    # A sequence as one file: its plan, its letters with passages, pictures and attachments, its rules of joining, and what it speaks of,
    # by name. Nobody of its people goes along.
    class SequenceOut
      FORMAT = "nimble-letter-sequence/1"

      # @param sequence [Records::Sequence]
      def initialize(sequence, moment)
        @sequence, @moment = sequence, moment
      end

      # @return [Hash] see docs/FILES.md
      # @raise [Invalid, NotFound] when it asks for what cannot go along, or is gone
      def call
        steps = StepInputs.of(@sequence)
        letters = letters_of(steps)
        own = {"steps" => steps, "leave_if" => @sequence.leave_if, "rules" => rules, "letters" => letters.map { |one| letter(one) },
               "passages" => passages(letters)}
        stands_in(own)
        {
          "format" => FORMAT,
          "name" => @sequence.name,
          "firm" => @moment.firm.name,
          "sender" => @sequence.sender["kind"],
          "leave_on" => @sequence.leave_on,
          **own,
          "pictures" => pictures(letters),
          "notes" => Records::PlanNote.where(sequence_id: @sequence.id).order(:id).select_map(:text),
          "speaks_of" => speaks_of(own, letters.map(&:id))
        }
      end

      # @return [String]
      def file = JSON.pretty_generate(call)

      private

      def letters_of(steps)
        ids = Core::Exchange::Places.spoken_of(bare(steps), type_of)["letters"]
        Records::Letter.where(id: ids).order(:id).all
      end

      # The letters that it sends, not those that it asks about.
      def bare(steps)
        steps.map do |step|
          lanes = step["lanes"]&.map { |lane| {"steps" => bare(lane["steps"])} }
          {"letter_id" => step["letter_id"], "other" => step["other"]&.slice("letter_id"), "lanes" => lanes}
        end
      end

      def letter(one)
        attachments = one.attachments.map { |file| {"name" => file.name, "data" => [file.data].pack("m0")} }
        {"id" => one.id, "letter" => one.content.transform_keys(&:to_s), "attachments" => attachments}
      end

      def passages(letters)
        ids = letters.flat_map { |one| one.passages.keys }.uniq
        Records::Passage.where(id: ids).order(:id).map { |one| {"id" => one.id, "name" => one.name, "documents" => one.documents} }
      end

      def pictures(letters)
        ids = letters.flat_map { |one| one.documents.flat_map(&:picture_ids) }.uniq
        Records::Picture.where(id: ids).order(:id).map { |one| {"id" => one.id, "name" => one.name, "data" => [one.data].pack("m0")} }
      end

      # Saved filters become the conditions they are; people who were picked stay here.
      def rules
        Records::JoinRule.where(sequence_id: @sequence.id).order(:id).filter_map do |rule|
          settings = rule.settings
          if rule.kind == "filter"
            condition = @moment.audience(settings["audience"]).condition or next
            settings = {"audience" => {"condition" => condition}}
          end
          {"kind" => rule.kind, "settings" => settings, **rule.values.slice(:again, :gap_days, :now_too).transform_keys(&:to_s)}
        end
      end

      # Where somebody stands is asked of steps that are numbered otherwise elsewhere.
      def stands_in(json)
        return unless JSON.generate(json).match?(/"(membership)":[^{}]*"(step_id|lane_id)":\d|"(step_id|lane_id)":\d+[^{}]*"membership":/)

        raise Invalid.new("A condition of it asks where somebody stands in a sequence.", code: :cannot_go_along, at: "steps",
          hint: "Ask whether they are in it, or were, and take it out again.")
      end

      def type_of = ->(key) { @moment.catalogue[key]&.type }

      def speaks_of(own, sent)
        found = Core::Exchange::Places.spoken_of(own, type_of)
        {
          "fields" => fields(found["fields"] || []),
          "colleagues" => named(Records::Account, found["colleagues"]),
          "lists" => named(Records::List, found["lists"]),
          "tags" => named(Records::Tag, found["tags"]),
          "sequences" => named(Records::Sequence, [*found["sequences"], *found["handed_to"]].uniq),
          "letters" => named(Records::Letter, (found["letters"] || []) - sent),
          "stages" => worded(Records::FieldCatalogue.deal_stages, found["stages"]),
          "statuses" => worded(statuses, found["statuses"]),
          "outcomes" => worded(OwnWords.of("outcomes"), found["outcomes"])
        }.reject { |_, all| all.empty? }
      end

      def statuses = MemberStatus.of(@sequence).rungs.map { |rung| {"key" => rung.key, "words" => rung.words} }

      # What every firm has needs no word.
      def fields(keys)
        keys.filter_map { |key| @moment.catalogue[key] }.select(&:custom?).map do |field|
          {"key" => field.key, "label" => field.label, "subject" => field.subject, "type" => field.type.to_s,
           "choices" => field.choices&.values}.compact
        end
      end

      def named(kind, ids) = kind.where(id: ids || []).order(:id).select_map(%i[id name]).map { |id, name| {"id" => id, "name" => name} }

      def worded(all, keys) = all.select { |one| (keys || []).include?(one["key"]) }.map { |one| one.slice("key", "words", "outcome") }
    end
  end
end
