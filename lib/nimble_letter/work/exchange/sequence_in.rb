# frozen_string_literal: true

require "stringio"

module NimbleLetter
  module Work
    # A sequence of a file: what is to be asked before it can be one's own, and then the draft that it becomes.
    class SequenceIn
      Places = Core::Exchange::Places
      MOST_BYTES = 32 * 1024 * 1024 # it carries its pictures, a third larger than they are
      # What must be said, by kind: how it is called, and where its name is.
      KINDS = {"fields" => "label", "colleagues" => "name", "lists" => "name", "sequences" => "name", "letters" => "name",
               "stages" => "words", "statuses" => "words", "outcomes" => "words"}.freeze
      NOUNS = {"fields" => "the field", "colleagues" => "the colleague", "lists" => "the list", "sequences" => "the sequence",
               "letters" => "the letter", "stages" => "the stage", "statuses" => "the status", "outcomes" => "the outcome",
               "filters" => "the filter", "people" => "the person"}.freeze

      # One thing that the file speaks of. here: what it is called by here, where that is plain; open: whether it may be left open
      Wanted = Struct.new(:kind, :id, :words, :here, :about, :open, keyword_init: true)

      # @param file [Hash] see docs/FILES.md, its shape checked
      # @raise [Invalid]
      def initialize(file, moment)
        unless file["format"] == SequenceOut::FORMAT
          raise Invalid.new("This file is no sequence of ours.", code: :not_a_sequence,
            hint: "It begins with \"format\": #{SequenceOut::FORMAT.inspect}.")
        end
        @file, @moment = file, moment
      end

      # @return [Hash] what is asked: name, letters, links, firm, and wanted (see Wanted)
      def asks
        {name: @file["name"], letters: letters.map { |one| one.dig("letter", "name").to_s }, links: links, firm: firm_named,
         sender: @file["sender"], rules: (@file["rules"] || []).size, wanted: wanted.map(&:to_h)}
      end

      # @param answers [Hash] name, sender, firm, links, and for each kind what stands for what
      # @return [Records::Sequence] a draft
      # @raise [Invalid]
      def call(answers)
        @answers = answers
        Records.db.transaction do
          sequence = PlanSequence.make(name: answers["name"] || @file["name"], audience: nil, moment: @moment)
          @made = begun
          letters.each { |one| write(one) }
          lay_out(sequence)
          rules.each { |rule| KeepRule.make(sequence, rule, moment: @moment) }
          (@file["notes"] || []).each { |text| NoteOnPlan.write(sequence, text, step_id: nil, moment: @moment) }
          sequence.refresh
        end
      end

      private

      def letters = @file["letters"] || []

      # Everything in which something is spoken of.
      def whole = @file.slice("steps", "leave_if", "rules", "letters", "passages")

      def spoken_of = @spoken_of ||= Places.spoken_of(whole, type_of)

      def type_of
        own = told("fields").to_h { |field| [field["key"], field["type"].to_s.to_sym] }
        ->(key) { own[key] || @moment.catalogue[key]&.type }
      end

      def told(kind) = (@file["speaks_of"] || {})[kind] || []

      # Addresses with fields in them are made for each reader.
      def links = (spoken_of["links"] || []).reject { |link| link.include?("{{") || link.start_with?("mailto:", "tel:") }.uniq

      # @return [String, nil] the name of the other firm, where the letters speak of it
      def firm_named
        name = @file["firm"].to_s
        name if !name.strip.empty? && name != @moment.firm.name && JSON.generate(whole).include?(JSON.generate(name)[1..-2])
      end

      def wanted
        KINDS.flat_map do |kind, label|
          told(kind).select { |one| needed(kind).include?(one["id"] || one["key"]) }.map do |one|
            id = one["id"] || one["key"]
            about = one.slice("type", "subject", "choices")
            Wanted.new(kind: kind, id: id.to_s, words: one[label].to_s, here: here(kind, one), about: about,
              open: kind == "sequences" && !(spoken_of["sequences"] || []).include?(id))
          end
        end
      end

      def needed(kind)
        return [*spoken_of["sequences"], *spoken_of["handed_to"]] if kind == "sequences"

        (spoken_of[kind] || []) - ((kind == "letters") ? letters.map { |one| one["id"] } : [])
      end

      # By its name, as people would.
      def here(kind, one)
        fold = ->(words) { Core::Fold.call(words.to_s) }
        same = ->(words) { fold.call(words) == fold.call(one[KINDS[kind]]) }
        case kind
        when "fields" then @moment.catalogue.find { |field| fits?(field, one) && same.call(field.label) }&.key
        when "stages" then by_words(Records::FieldCatalogue.deal_stages, one, same)
        when "statuses" then by_words(Records::StatusSet.standard.statuses, one, same)
        when "outcomes" then by_words(OwnWords.of("outcomes"), one, same)
        else models.fetch(kind).select(:id, :name).all.find { |record| same.call(record.name) }&.id
        end
      end

      # Asked for only here: the web server knows this class before there is a database.
      def models
        {"colleagues" => Records::Account, "lists" => Records::List, "sequences" => Records::Sequence, "letters" => Records::Letter}
      end

      # The same key with the same words goes before the same words alone.
      def by_words(all, one, same) =
        (all.find { |other| other["key"] == one["key"] && same.call(other["words"]) } || all.find { |other| same.call(other["words"]) })
          &.fetch("key")

      def fits?(field, one) = !field.retired? && field.subject == one["subject"] && field.type.to_s == one["type"]

      # @return [Object] what stands for it here
      def answer(kind, value, open: false)
        known = @by_id ||= wanted.to_h { |one| [[one.kind, one.id], one] }
        asked = known[[kind, value.to_s]] or return known_here(kind, value)
        given = (@answers[kind] || {}).fetch(value.to_s) { asked.here }
        return given unless given.nil? && !open

        raise Invalid.new("Say what stands here for #{NOUNS.fetch(kind)} “#{asked.words}”.", code: :unanswered,
          at: "answers.#{kind}.#{value}")
      end

      # What the file does not name is what every firm has, or nothing: a number alone would be somebody else's here.
      def known_here(kind, value)
        here = case kind
        when "fields" then (field = @moment.catalogue[value]) && !field.custom?
        when "stages" then Records::FieldCatalogue.deal_stages.any? { |one| one["key"] == value }
        when "statuses" then Records::StatusSet.standard.statuses.any? { |one| one["key"] == value }
        when "outcomes" then OwnWords.of("outcomes").any? { |one| one["key"] == value }
        end
        here ? value : not_said(kind, value)
      end

      def not_said(kind, value)
        raise Invalid.new("It speaks of #{NOUNS.fetch(kind)} #{value.to_s[0, 60].inspect} and does not say which that is.",
          code: :not_said, at: "speaks_of.#{kind}")
      end

      def rewrite(json)
        Places.map(json, type_of) do |kind, value|
          case kind
          when "letters" then @made.fetch(value) { answer(kind, value) }
          when "handed_to" then answer("sequences", value, open: true)
          when "links" then (@answers["links"] || {}).fetch(value, value)
          when "tags" then tag(value)
          when "filters", "people" then not_said(kind, value)
          when *KINDS.keys then answer(kind, value)
          else value
          end
        end
      end

      # Tags are words: one that is not here yet is made.
      def tag(id)
        tag = told("tags").find { |one| one["id"] == id } or raise Invalid.new("A tag of it has no name.", at: "speaks_of.tags")
        Records::Tag.named(tag["name"]).id
      end

      def along
        @along ||= TakeAlong.new(@moment, pictures: @file["pictures"], passages: @file["passages"],
          rewrite: ->(json) { renamed(rewrite(json)) })
      end

      # One may ask about another that comes along: each has its number before any is written.
      # @return [Hash{Integer=>Integer}] numbers here by numbers in the file
      def begun = letters.to_h { |one| [one["id"], WriteLetter.new(@moment).make(name: one.dig("letter", "name").to_s).id] }

      def write(one)
        made = Records::Letter[@made.fetch(one["id"])]
        content = along.call(one["letter"] || {}).transform_keys(&:to_sym).slice(*Records::Letter::CONTENT)
        WriteLetter.new(@moment).change(made, {**content, version: made.version})
        (one["attachments"] || []).each do |file|
          TakeAttachment.new(made, @moment).call(StringIO.new(file["data"].to_s.unpack1("m0")), name: file["name"])
        end
      rescue ArgumentError
        raise Invalid.new("A file that goes with “#{one.dig("letter", "name")}” is broken.", code: :not_a_sequence)
      end

      # The firm's name in what is read, not in keys and addresses.
      def renamed(json)
        firm, other = @answers["firm"], firm_named
        return json if firm.to_s.strip.empty? || other.nil?

        in_text(json, other, firm.strip)
      end

      def in_text(json, from, to)
        case json
        when Array then json.map { |one| in_text(one, from, to) }
        when Hash
          json.to_h { |key, value| [key, (key == "text" && value.is_a?(String)) ? value.gsub(from, to) : in_text(value, from, to)] }
        else json
        end
      end

      def lay_out(sequence)
        steps = StepInputs.anew(renamed(rewrite(@file["steps"] || [])))
        input = {version: sequence.version, steps: steps, leave_on: @file["leave_on"] || %w[replied converted],
                 leave_if: rewrite(@file["leave_if"]), sender: sender(sequence)}
        PlanSequence.change(sequence, input.compact, moment: @moment)
        sequence.refresh
      end

      def sender(sequence) = @answers["sender"] || sequence.sender.merge("kind" => @file["sender"] || "mailbox")

      def rules
        rewrite(@file["rules"] || []).map do |rule|
          {kind: rule["kind"], settings: rule["settings"] || {}, live: true, now_too: rule["now_too"] || false,
           again: rule["again"] || "never", gap_days: rule["gap_days"] || 0}
        end
      end
    end
  end
end
