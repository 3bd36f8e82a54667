# frozen_string_literal: true

module NimbleLetter
  module Work
    # Something done to many records at once, as JSON: {"kind": "tag", "names": ["press"]} and the like. Turned once into
    # the state each of the records is to have, by RecordState's keys.
    class Act
      # What each kind has to be told. Nothing that would take something away has a default: to give people to nobody or to empty a
      # field is said.
      NEEDS = {
        **Core::Journey::ChangeKinds::OF_RECORDS,
        "consent" => %w[consent],
        "do_not_mail" => %w[value],
        "bin" => [],
        "restore" => [],
        "take_out" => %w[sequence_id],
        "pause" => %w[sequence_id],
        "go_on" => %w[sequence_id],
        "skip_step" => %w[sequence_id],
        "move_to" => %w[sequence_id step_id]
      }.freeze
      KINDS = NEEDS.keys.freeze

      attr_reader :json

      # @param json [Hash] kind, and what it needs: names (tags), list_id, owner_id, standing, field and value, consent and how
      # @param moment [Moment]
      # @raise [Invalid]
      def initialize(json, moment)
        @json, @moment = json.transform_keys(&:to_s), moment
        raise Invalid.new("An act is one of #{KINDS.join(", ")}.", at: "act.kind") unless KINDS.include?(kind)

        missing = NEEDS.fetch(kind).reject { |name| @json.key?(name) }
        raise Invalid.new("To do this, say #{missing.join(" and ")} too.", code: :incomplete, at: "act.#{missing.first}") if missing.any?
      end

      # @return [Hash{String=>Object}] see RecordState
      def wanted = @wanted ||= send(:"wanted_by_#{kind}")

      # @param count [Integer] people
      # @return [String] "Tagged 12 people press"
      def words(count)
        many = (count == 1) ? "1 person" : "#{Core::Fields::Saying.grouped(count)} people"
        case kind
        when "tag"
          "Tagged #{many} #{names.join(", ")}"
        when "untag"
          "Took #{names.join(", ")} off #{many}"
        when "list"
          "Put #{many} on the list “#{list.name}”"
        when "unlist"
          "Took #{many} off the list “#{list.name}”"
        when "owner"
          "Gave #{many} to #{owner ? owner.name : "nobody"}"
        when "standing"
          "Made #{many} #{Core::Fields::Catalogue::STANDING[json["standing"]]}"
        when "field"
          "Set #{field.label.downcase} of #{many} to #{Core::Fields::Saying.say(field, taken, names: {owners: {}}) || "nothing"}"
        when "consent"
          "Noted consent “#{json["consent"]}” for #{many}"
        when "do_not_mail"
          "Marked #{many} as not to be written to"
        when "bin"
          "Put #{many} in the bin"
        when "restore"
          "Took #{many} out of the bin"
        when "take_out" then "Took #{many} out of “#{sequence.name}”"
        when "pause" then "Paused #{many} in “#{sequence.name}”"
        when "go_on" then "Let #{many} go on in “#{sequence.name}”"
        when "skip_step" then "Skipped a step of “#{sequence.name}” for #{many}"
        when "move_to" then "Moved #{many} to step #{step.position + 1} of “#{sequence.name}”"
        end
      end

      # @return [String] "Tag them press": what a step of a sequence does
      def to_do
        case kind
        when "tag" then "Tag them #{names.join(", ")}"
        when "untag" then "Take #{names.join(", ")} off them"
        when "list" then "Put them on the list “#{list.name}”"
        when "unlist" then "Take them off the list “#{list.name}”"
        when "owner" then "Give them to #{owner ? owner.name : "nobody"}"
        when "standing" then "Make them #{Core::Fields::Catalogue::STANDING[json["standing"]]}"
        when "field" then "Set #{field.label.downcase} to #{Core::Fields::Saying.say(field, taken, names: {owners: {}}) || "nothing"}"
        else words(1)
        end
      end

      # @return [Array<String>] tags that it would make
      def new_tags = (kind == "tag") ? names.reject { |name| Records::Tag.found(name) }.uniq { |name| Core::Fold.call(name) } : []

      # @return [Boolean] whether it is about records in the bin
      def in_bin? = kind == "restore"

      private

      def kind = json["kind"]

      def names
        names = Array(json["names"]).map { |name| name.to_s.strip }.reject(&:empty?)
        names.empty? ? raise(Invalid.new("Say which tag.", at: "act.names")) : names
      end

      def number(name) = json[name].is_a?(Integer) ? json[name] : raise(Invalid.new("This needs a number.", at: "act.#{name}"))

      def list = @list ||= Records::List[number("list_id")] || raise(NotFound.new("This list is gone.", at: "act.list_id"))

      def owner
        return if json["owner_id"].nil?

        @owner ||= Records::Account[number("owner_id")] || raise(Invalid.new("There is no such colleague.", at: "act.owner_id"))
      end

      def field
        @field ||= @moment.catalogue[json["field"]].then do |field|
          if field&.for?(:import) && field.table == :people && !%i[tags lists reference].include?(field.type) &&
              field.key != "person.email" && !Core::Sieve::MARKS.include?(field.key)
            next field
          end

          raise Invalid.new("#{field&.label || "This"} cannot be set for many at once.", at: "act.field")
        end
      end

      def taken
        value = @moment.taking.take(field, json["value"])
        if field.key == "person.time_zone" && value && !Core::Calendar::Zones.known?(value)
          raise Invalid.new("There is no time zone of this name.", at: "act.value")
        end

        value
      end

      def wanted_by_tag = names.to_h { |name| ["tag:#{Records::Tag.named(name).id}", true] }

      def wanted_by_untag = names.to_h { |name| ["tag:#{Records::Tag.named(name).id}", false] }

      def wanted_by_list = {"list:#{list.id}" => true}

      def wanted_by_unlist = {"list:#{list.id}" => false}

      def wanted_by_owner = {"person.owner" => owner&.id}

      def wanted_by_standing
        standing =
          (
            if @moment.catalogue["person.standing"].choices.key?(json["standing"])
              json["standing"]
            else
              raise(Invalid.new("There is no such standing.", at: "act.standing"))
            end
          )
        {"person.standing" => standing}
      end

      def wanted_by_field = {field.key => RecordState.to_json_value(field, taken)}

      def wanted_by_consent
        unless Core::Fields::Catalogue::CONSENT.key?(json["consent"])
          raise Invalid.new("Consent is yes, no or unknown.", at: "act.consent")
        end

        {"person.consent" => json["consent"], "person.consent_how" => Core::Letters::Values.clean(json["how"])}
      end

      def wanted_by_do_not_mail
        unless json["value"] == true
          raise Invalid.new("Many records can be marked at once, but a “no” ends on each record of its own.", code: :says_no,
            at: "act.value", hint: "Choose “They want letters again” on the record, and say how you know.")
        end

        {RecordState::DO_NOT_MAIL => true}
      end

      def sequence
        @sequence ||= Records::Sequence[number("sequence_id")] || raise(NotFound.new("This sequence is gone.", at: "act.sequence_id"))
      end

      def step
        @step ||= Records::Step.first(id: number("step_id"), sequence_id: sequence.id, out_at: nil) ||
          raise(Invalid.new("There is no such step in it.", at: "act.step_id"))
      end

      # What becomes of each depends on where they stand.
      def moving(to = nil)
        unless Standing::CAN_GO_ON.include?(sequence.state)
          raise Invalid.new("“#{sequence.name}” is not running.", code: :not_running, at: "act.sequence_id")
        end

        {"#{RecordState::PLACE}#{sequence.id}" => MovingMember.new(kind, sequence, @moment, to: to)}
      end

      def wanted_by_take_out = moving
      def wanted_by_pause = moving
      def wanted_by_go_on = moving
      def wanted_by_skip_step = moving
      def wanted_by_move_to = moving(step.id)

      def wanted_by_bin = {RecordState::BIN => true}

      def wanted_by_restore = {RecordState::BIN => false}
    end
  end
end
