# frozen_string_literal: true

module NimbleLetter
  module Work
    # Gives a tag another name. When there is a tag of that name already, the two become one, once that is wanted.
    # Conditions go by a tag's name, so those in filters, audiences and the passages of letters are changed with it.
    module RenameTag
      # Where conditions stand.
      HOLDERS = {SavedFilter: :condition, Sequence: :audience, JoinRule: :settings, Letter: :body, Passage: :documents}.freeze

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
          HOLDERS.each { |model, column| rewrite(Records.const_get(model), column, former, left.name) }
          {id: left.id, name: left.name, people: people(left)}
        end
      end

      def self.people(tag) = Records.db[:people_tags].where(tag_id: tag.id).count
      private_class_method :people

      def self.pour(tag, other)
        worn = Records.db[:people_tags]
        Records::Stirred.quietly do
          worn.insert_ignore.insert(%i[person_id tag_id], worn.where(tag_id: tag.id).select(:person_id, Sequel.lit("?", other.id)))
        end
        Records::JoinRule.where(kind: "tag").all.select { |rule| rule.settings["tag_id"] == tag.id }
          .each { |rule| rule.update(settings: {"tag_id" => other.id}, version: rule.version + 1) }
        worn.where(tag_id: tag.id).delete
        tag.delete
      end
      private_class_method :pour

      def self.rewrite(model, column, former, name)
        model.where(Sequel.like(column, "%tags%")).all.each do |record|
          json = record.public_send(column)
          changed = renamed(json, former, name)
          # Somebody who has it open hears of a newer version, and does not write the old name back.
          record.update(column => changed, :version => record.version + 1) unless changed == json
        end
      end
      private_class_method :rewrite

      def self.renamed(json, former, name)
        case json
        when Hash
          json = json.merge("value" => json["value"].map { |value| (Core::Fold.call(value) == former) ? name : value }.uniq) if json[
            "field"
          ] == "person.tags" && json["value"].is_a?(Array)
          json.to_h { |key, part|
            [key, if %w[tags without_tags].include?(key) && part.is_a?(Array)
                    part.map { |tag| (Core::Fold.call(tag) == former) ? name : tag }.uniq
                  else
                    renamed(part, former, name)
                  end]
          }
        when Array then json.map { |part| renamed(part, former, name) }
        else json
        end
      end
      private_class_method :renamed
    end
  end
end
