# frozen_string_literal: true

module NimbleLetter
  module Core
    # Sequences as files: what they speak of, and how it is called elsewhere.
    module Exchange
      # The places at which a plan, a letter, a condition or a rule speaks of something that stands outside of it: fields, lists,
      # colleagues. One walk finds them and puts others in their stead: for files, for where something is used, and for what goes by
      # another name.
      module Places
        # By the name of a place: what stands there. "handed_to" is the sequence a step hands over to, which may be left open.
        NAMED = {"letter_id" => "letters", "sequence_id" => "sequences", "list_id" => "lists", "tag_id" => "tags",
                 "owner_id" => "colleagues", "picture_id" => "pictures", "passage_id" => "passages", "filter_id" => "filters"}.freeze
        # Where several stand: in an audience, and the tags that a step puts on or takes off.
        SEVERAL = {"tags" => "tag_names", "without_tags" => "tag_names", "names" => "tag_names", "lists" => "lists",
                   "without_lists" => "lists", "filters" => "filters", "without_filters" => "filters", "people" => "people",
                   "without" => "people"}.freeze
        # What the values of a test on such a field are.
        OF_TYPE = {reference: "colleagues", lists: "lists", tags: "tag_names"}.freeze
        BY_WORDS = %w[stages tag_names].freeze
        STAGE = "deal.stage"

        # @param json [Hash, Array, Object]
        # @param type_of [#call] the type of a field by its key, nil where there is none
        # @yield [String, Object] the kind of what is spoken of, and what stands there
        # @yieldreturn [Object] what is to stand there
        # @return [Object] the same, with these
        def self.map(json, type_of, &put)
          case json
          when Array then json.map { |one| map(one, type_of, &put) }
          when Hash then json.to_h { |key, value| [key, at(key, value, json, type_of, &put)] }
          else json
          end
        end

        # @return [Hash{String=>Array}] what is spoken of by kind, each once
        def self.spoken_of(json, type_of)
          found = Hash.new { |all, kind| all[kind] = [] }
          map(json, type_of) { |kind, value| value.tap { found[kind] << value } }
          found.transform_values(&:uniq)
        end

        def self.at(key, value, within, type_of, &put)
          named = NAMED[key]
          return value && put.call(handed?(named, within) ? "handed_to" : named, value) if named
          return several(value, SEVERAL[key], type_of, &put) if SEVERAL.key?(key)

          case key
          when "field" then value.is_a?(String) ? put.call("fields", value) : map(value, type_of, &put)
          when "value", "from", "to" then value(value, within["field"], type_of, &put)
          when "of" then value.is_a?(Integer) ? put.call("colleagues", value) : value
          when "stage" then value.is_a?(String) ? put.call("stages", value) : map(value, type_of, &put)
          when "status" then words(value, "statuses", &put)
          when "outcome", "outcomes" then words(value, "outcomes", &put)
          when "link" then value.is_a?(String) ? put.call("links", value) : map(value, type_of, &put)
          when "href" then href(value, type_of, &put)
          else map(value, type_of, &put)
          end
        end
        private_class_method :at

        def self.handed?(named, within) = named == "sequences" && within["kind"] == "hand_over"
        private_class_method :handed?

        def self.words(value, kind, &put)
          case value
          when String then put.call(kind, value)
          when Array then value.map { |one| one.is_a?(String) ? put.call(kind, one) : one }
          else value
          end
        end
        private_class_method :words

        # @param kind [String] numbers of such, or words
        def self.several(value, kind, type_of, &put)
          return map(value, type_of, &put) unless value.is_a?(Array)

          value.map { |one| outside?(one, kind) ? put.call(kind, one) : map(one, type_of, &put) }.uniq
        end
        private_class_method :several

        def self.outside?(one, kind) = one.is_a?(Integer) || (BY_WORDS.include?(kind) && one.is_a?(String))
        private_class_method :outside?

        # Of a test, a change of a field, or a rule about one.
        def self.value(value, field, type_of, &put)
          return map(value, type_of, &put) if value.is_a?(Hash) || !field.is_a?(String)

          kind = (field == STAGE) ? "stages" : OF_TYPE[type_of.call(field)]
          return map(value, type_of, &put) unless kind

          return several(value, kind, type_of, &put) if value.is_a?(Array)

          outside?(value, kind) ? put.call(kind, value) : value
        end
        private_class_method :value

        # The address of a button or picture is a line of its own; one with fields in it is nobody's address yet.
        def self.href(value, type_of, &put)
          case value
          when String then put.call("links", value)
          when Array
            return map(value, type_of, &put) unless value.size == 1 && value.first.is_a?(Hash) && value.first["type"] == "text"

            [value.first.merge("text" => put.call("links", value.first["text"].to_s))]
          else value
          end
        end
        private_class_method :href
      end
    end
  end
end
