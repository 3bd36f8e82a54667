# frozen_string_literal: true

module NimbleLetter
  module Work
    # Which filters, sequences, letters and passages speak of a filter, list, tag, field, passage, picture, stage, status or outcome, so
    # that nothing breaks silently. Everything is read once, for however many are asked about.
    class WhereUsed
      # What nobody is on the way through any more, and nobody lays out, breaks nothing.
      OVER = %w[stopped ended].freeze

      # @param asker [Records::Account, nil] who reads the names; of a filter that others keep to themselves it is not said
      def initialize(asker = nil)
        @asker = asker
      end

      # @raise [Invalid] naming what would break
      def self.refuse_if_used!(kind, name, uses)
        return if uses.empty?

        raise Invalid.new(
          "The #{kind} “#{name}” is used by #{uses.map { |use| "“#{use[:name]}”" }.first(4).join(", ")}.",
          code: :in_use,
          hint: "Change #{(uses.size == 1) ? "it" : "them"} first.",
          data: {used_in: uses}
        )
      end

      # @return [Array<Hash>] kind, id, name and, of a sequence, state
      def filter(filter) = uses("filters", filter.id)

      def list(list) = uses("lists", list.id)

      def tag(tag) = (uses("tag_names", tag.name_fold) | uses("tags", tag.id))

      def passage(passage) = uses("passages", passage.id)

      def picture(picture) = uses("pictures", picture.id)

      # @param field [Core::Fields::Field]
      def field(field) = uses("fields", field.key)

      # Of a list of words with keys, those that are to go.
      # @param kind [String] stages, statuses or outcomes
      # @param words [Array<Hash{String=>String}>] "key" and "words", as they are
      # @param keys [Array<String>] that stay
      # @raise [Invalid] naming what would break
      def hold_words!(kind, noun, words, keys)
        gone = words.reject { |one| keys.include?(one["key"]) }
        gone.each { |one| WhereUsed.refuse_if_used!(noun, one["words"], uses(kind, one["key"])) }
      end

      private

      def uses(kind, value) = index.fetch([kind, value], [])

      # @return [Hash{Array(String, Object)=>Array<Hash>}] by what is spoken of, sequences first and each by its name
      def index
        @index ||= [*sequences, *filters, *written].each_with_object({}) do |(use, json), index|
          Core::Exchange::Places.spoken_of(json, type_of).each do |kind, values|
            values = values.map { |name| Core::Fold.call(name) }.uniq if kind == "tag_names"
            values.each { |value| (index[[kind, value]] ||= []) << use }
          end
        end
      end

      def type_of = @type_of ||= Records::FieldCatalogue.current.then { |catalogue| ->(key) { catalogue[key]&.type } }

      # By whom they are for and who joins them; of what goes on, by its steps and lanes, what takes people out, what is proposed, and the
      # words that still go out.
      def sequences
        rules = Records::JoinRule.all.group_by(&:sequence_id)
        ids = Records::Sequence.exclude(state: OVER).select_map(:id)
        plans, words = plans(ids), words(ids)
        Records::Sequence.order(:name).all.map do |one|
          going = OVER.include?(one.state) ? [] : [one.leave_if, one.proposal, *plans.fetch(one.id, []), *words.fetch(one.id, [])]
          json = [one.audience, *rules.fetch(one.id, []).map(&:settings), *going]
          [{kind: "sequence", id: one.id, name: one.name, state: one.state}, json]
        end
      end

      # @return [Hash{Integer=>Array<Hash>}] what their steps and lanes say, by sequence
      def plans(ids)
        steps = Records::Step.where(sequence_id: ids, out_at: nil).all
        lanes = Records::Lane.where(fork_id: steps.map(&:id), out_at: nil).all.group_by(&:fork_id)
        steps.group_by(&:sequence_id).transform_values do |some|
          some.flat_map { |step| [step.settings, step.other, {"field" => step.field}, *lanes.fetch(step.id, []).map(&:test)] }.compact
        end
      end

      # @return [Hash{Integer=>Array<Hash>}] what the plans in effect hold of their letters
      def words(ids)
        newest = Records::FrozenPlan.where(sequence_id: ids).order(:number).as_hash(:sequence_id)
        texts = Records::LetterText.where(id: newest.each_value.flat_map { |plan| plan.texts.values }.uniq).as_hash(:id, :content)
        newest.transform_values { |plan| plan.texts.values.filter_map { |id| texts[id] }.map { |text| JSON.parse(text) } }
      end

      def filters
        Records::SavedFilter.order(:name).all.map { |one| [{kind: "filter", id: one.id, name: filter_name(one)}, one.condition] }
      end

      def filter_name(filter)
        return filter.name if filter.shared || filter.account_id == @asker&.id

        "a private filter of #{Records::Account[filter.account_id]&.name || "a colleague"}"
      end

      def written
        letters = Records::Letter.order(:name).all.map do |one|
          [{kind: "letter", id: one.id, name: one.name}, Records::Letter::PARTS.map { |part| one.public_send(part) }]
        end
        letters + Records::Passage.order(:name).all.map { |one| [{kind: "passage", id: one.id, name: one.name}, one.documents] }
      end
    end
  end
end
