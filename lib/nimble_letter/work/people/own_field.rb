# frozen_string_literal: true

module NimbleLetter
  module Work
    # Fields the firm makes for itself: making, renaming, retiring, and where one is used. Nothing is ever deleted, so
    # that no filter, letter or sequence breaks silently. A new one is there once the clerk has made its column, see
    # MakeColumns.
    module OwnField
      KEY = /\A[\p{L}\p{N}]/
      MOST_CHOICES = 100

      # @param values [Hash{Symbol=>Object}] subject, label, type, choices (Array of words)
      # @raise [Invalid]
      # @raise [Forbidden] unless an admin asks
      # @return [Records::CustomField] not made yet
      def self.make(values, moment:)
        moment.admin!
        label, type, subject = values[:label].to_s.strip, values[:type].to_s, values.fetch(:subject, "person")
        check(label, type, subject)
        if Records::CustomField.count >= Records::CustomField::MOST
          raise Invalid.new("A firm may have #{Records::CustomField::MOST} fields of its own.", at: "label")
        end

        moment.note("setting_changed", about: "a new field “#{label}” of a #{subject}")
        Records::CustomField.create(
          subject: subject,
          name: name_for(label, subject),
          label: label,
          type: type,
          choices: choices(type, values[:choices]),
          made: false,
          created_at: moment.now,
          updated_at: moment.now
        )
      end

      # @raise [Invalid, Conflict, Forbidden]
      def self.change(field, values, version:, moment:)
        moment.admin!
        changes = {}
        if values[:label]
          label = values[:label].to_s.strip
          check_label(label, field.subject, except: field.id)
          changes[:label] = label
        end
        changes[:retired] = values[:retired] if values.key?(:retired)
        # A choice that is taken is never taken away: it goes on being read.
        changes[:choices] = (field.choices || {}).merge(choices(field.type, values[:choices])) if values[:choices] &&
          %w[choice choices].include?(field.type)
        moment.note("setting_changed", about: "the field “#{field.label}”: #{changes.keys.join(", ")}")
        field.change!(changes, version: version, now: moment.now)
      end

      def self.check(label, type, subject)
        raise Invalid.new("A field is of a person or a company.", at: "subject") unless Records::CustomField::TABLES.key?(subject)
        unless Records::CustomField::TYPES.include?(type)
          raise Invalid.new("A field is one of #{Records::CustomField::TYPES.join(", ")}.", at: "type")
        end

        check_label(label, subject)
      end
      private_class_method :check

      def self.check_label(label, subject, except: nil)
        unless label.match?(KEY) && label.length <= 80
          raise Invalid.new("A field needs a name that begins with a letter or digit.", at: "label")
        end

        fold = Core::Fold.call(label)
        known = Records::FieldCatalogue.current.to_a + Records::CustomField.where(made: false).map(&:to_field)
        taken = known.find { |field| field.subject == subject && field.custom_id != except && Core::Fold.call(field.label) == fold }
        raise Invalid.new("There is already a field “#{taken.label}”.", at: "label") if taken
      end
      private_class_method :check_label

      # Letters that mean the same in SQL, JSON and templates; a number follows where two labels come to the same.
      def self.name_for(label, subject)
        plain = Core::Fold.call(label).gsub(/[^a-z0-9]+/, "_").gsub(/\A_+|_+\z/, "")[0, 40]
        plain = "field" if plain.empty?
        taken = Records::CustomField.where(subject: subject).select_map(:name).to_set
        ([plain] + (2..).lazy.map { |n| "#{plain}_#{n}" }.first(100)).find { |name| !taken.include?(name) }
      end
      private_class_method :name_for

      def self.choices(type, words)
        return unless %w[choice choices].include?(type)

        words = Array(words).map { |word| Core::Letters::Values.clean(word.to_s) }.compact.uniq { |word| Core::Fold.call(word) }
        raise Invalid.new("Give it at least two choices.", at: "choices") if words.size < 2
        raise Invalid.new("At most #{MOST_CHOICES} choices.", at: "choices") if words.size > MOST_CHOICES

        words.each_with_index.to_h { |word, n| [choice_key(word, n), word[0, 80]] }
      end
      private_class_method :choices

      def self.choice_key(word, number) =
        Core::Fold.call(word).gsub(/[^a-z0-9]+/, "_").gsub(/\A_+|_+\z/, "")[0, 50].then { |key| key.empty? ? "choice_#{number + 1}" : key }
      private_class_method :choice_key
    end
  end
end
