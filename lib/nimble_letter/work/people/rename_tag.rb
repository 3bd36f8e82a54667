# frozen_string_literal: true

module NimbleLetter
  module Work
    # Gives a tag another name. When there is a tag of that name already, the two become one, once that is wanted.
    # Conditions go by a tag's name, and so do steps that put it on or take it off: wherever one stands it is changed along, also in the
    # plans that run and in the words that they hold, which go on to mean what they meant.
    module RenameTag
      # Where a tag is spoken of by its name.
      HOLDERS = {SavedFilter: %i[condition], Sequence: %i[audience leave_if proposal], JoinRule: %i[settings], Step: %i[settings],
                 Lane: %i[test], FrozenPlan: %i[tree], Letter: %i[subject preview body], LetterText: %i[content],
                 Passage: %i[documents], Import: %i[choices]}.freeze
      SAYS = ["%tags%", "%\"names\"%"].freeze

      # @return [Hash] id, name and people of the tag that is left
      # @raise [Conflict] with the other tag in `data`, unless merging is wanted
      def self.call(tag, name, merge: false)
        name = Core::Letters::Values.clean(name.to_s)&.slice(0, 80) or raise Invalid.new("A tag needs a word.", at: "name")
        Records.db.transaction do
          other = Records::Tag.exclude(id: tag.id).first(name_fold: Core::Fold.call(name))
          if other && !merge
            raise Conflict.new(
              "There is already a tag “#{other.name}”.",
              code: :tag_exists,
              hint: "Merge the two, or choose another name.",
              data: {
                id: other.id,
                people: people(other)
              }
            )
          end
          former = tag.name_fold
          other ? pour(tag, other) : tag.update(name: name, name_fold: Core::Fold.call(name))
          left = other || tag
          speak_of(former, left.name)
          {id: left.id, name: left.name, people: people(left)}
        end
      end

      def self.people(tag) = Records.db[:people_tags].where(tag_id: tag.id).count
      private_class_method :people

      def self.pour(tag, other)
        worn = Records.db[:people_tags]
        both = worn.where(tag_id: tag.id, person_id: worn.where(tag_id: other.id).select(:person_id))
        undone_as(tag, other, both.select_map(:person_id))
        Records::Stirred.quietly do
          worn.insert_ignore.insert(%i[person_id tag_id], worn.where(tag_id: tag.id).select(:person_id, Sequel.lit("?", other.id)))
        end
        Records::JoinRule.where(kind: "tag").all.select { |rule| rule.settings["tag_id"] == tag.id }
          .each { |rule| rule.update(settings: {"tag_id" => other.id}, version: rule.version + 1) }
        worn.where(tag_id: tag.id).delete
        tag.delete
      end
      private_class_method :pour

      # What was done with the one is taken back of the other. Of those who wear both it cannot be told any more which of them it was: the
      # one they wear stays.
      def self.undone_as(tag, other, both)
        keys = [tag, other].map { |one| JSON.generate("tag:#{one.id}") }
        %i[before after].each do |column|
          entries = Records.db[:change_entries].where(Sequel.like(column, "%#{keys.first}%")).exclude(person_id: both)
          entries.update(column => Sequel.function(:replace, column, *keys))
        end
      end
      private_class_method :undone_as

      def self.speak_of(former, name)
        catalogue = Records::FieldCatalogue.current
        type_of = ->(key) { catalogue[key]&.type }
        renamed = ->(json) do
          Core::Exchange::Places.map(json, type_of) do |kind, value|
            (kind == "tag_names" && Core::Fold.call(value) == former) ? name : value
          end
        end
        changed = HOLDERS.to_h { |model, columns| [model, rewrite(Records.const_get(model), columns, renamed)] }
        # Whoever has a plan open, to change it or to propose a change, hears of it by its sequence.
        plans = changed.fetch(:Step) | Records::Step.where(id: changed.fetch(:Lane)).select_map(:sequence_id)
        Records::Sequence.where(id: plans).update(version: Sequel[:version] + 1, proposal_version: Sequel[:proposal_version] + 1)
      end
      private_class_method :speak_of

      # @return [Array<Integer>] of what they belong to: of steps the sequence, of lanes the fork
      def self.rewrite(model, columns, renamed)
        says = columns.flat_map { |column| SAYS.map { |words| Sequel.like(column, words) } }
        model.where(Sequel.|(*says)).all.filter_map do |record|
          changed = columns.to_h { |column| [column, record.public_send(column)] }.filter_map { |column, json|
            other = renamed.call(json)
            [column, other] unless other == json
          }.to_h
          next if changed.empty?

          record.update(changed.merge(anew(record, changed)))
          record[:sequence_id] || record[:fork_id]
        end.uniq
      end
      private_class_method :rewrite

      # Somebody who has it open hears of a newer version, and does not write the old name back.
      def self.anew(record, changed)
        versions = {version: 1, proposal_version: (changed.key?(:proposal) ? 1 : 0)}.select { |name, _| record.values.key?(name) }
        versions = versions.to_h { |name, more| [name, record[name] + more] }
        record.is_a?(Records::LetterText) ? record.digest_of(changed[:content]) : versions
      end
      private_class_method :anew
    end
  end
end
