# frozen_string_literal: true

module NimbleLetter
  module Work
    # Makes, changes and takes away saved filters. One that is shared is everybody's to use and to mend; to take it for
    # oneself or away is for whoever made it, or an admin.
    class KeepFilter
      def initialize(moment)
        @moment = moment
      end

      # @param values [Hash{Symbol=>Object}] name, condition, shared, view
      # @raise [Invalid]
      # @return [Records::SavedFilter]
      def make(values)
        @moment.parser.parse!(values[:condition])
        Records::SavedFilter.create(
          name: values[:name].strip,
          condition: values[:condition],
          shared: values.fetch(:shared, true),
          view: values[:view],
          account_id: @moment.account&.id,
          created_at: @moment.now,
          updated_at: @moment.now
        )
      end

      # @raise [Invalid, Conflict, Forbidden]
      # @return [Records::SavedFilter]
      def change(filter, values, version:)
        @moment.parser.parse!(values[:condition]) if values[:condition]
        changes = {name: values[:name]&.strip, condition: values[:condition], shared: values[:shared], view: values[:view]}.compact
        locked(filter) do
          if changes[:shared] == false && filter.shared
            theirs!(filter, "take it for yourself")
            unused!(filter)
          end
          filter.change!(changes, version: version, now: @moment.now)
        end
      end

      # @raise [Invalid, Forbidden]
      def take_away(filter)
        locked(filter) do
          theirs!(filter, "take it away")
          unused!(filter)
          filter.delete
        end
      end

      private

      # Nobody begins to use it meanwhile, see SharedFilters.
      def locked(filter)
        Records.db.transaction do
          filter.lock!
          yield
        end
      end

      def unused!(filter) = WhereUsed.refuse_if_used!("filter", filter.name, WhereUsed.new.filter(filter))

      def theirs!(filter, what)
        asker = @moment.account
        return if asker.nil? || asker.admin? || filter.account_id == asker.id

        maker = filter.account_id && Records::Account[filter.account_id]&.name
        raise Forbidden.new(
          "“#{filter.name}” is shared, and #{maker || "the firm"} made it: you cannot #{what}.",
          code: :not_yours,
          hint: "Ask #{maker || "an admin"}, or save a copy under another name."
        )
      end
    end
  end
end
