# frozen_string_literal: true

module NimbleLetter
  module Work
    # What goes on in the background: files that are checked and taken in, acts on many records and their taking back,
    # the emptying of the bin, and the forgetting of old files. Several clerks may work beside each other; each piece is done by one
    # of them.
    class Clerk
      # @param folder [String] where files that are brought in are kept
      def initialize(folder)
        @folder = folder
      end

      # Does one piece of what is waiting.
      # @param now [Time] of the clock in use
      # @return [Boolean] whether there was something to do
      def round(now)
        moment = ->(account_id) { Moment.new(now: now, account: account_id && Records::Account[account_id]) }
        changes(moment) || imports(moment) || PutInBin.empty_old(moment.call(nil)).positive? ||
          ForgetFiles.call(@folder, moment.call(nil)).positive?
      end

      # Works until nothing is waiting.
      def finish(now)
        nil while round(now)
      end

      private

      def changes(moment) =
        Records::ChangeSet.unfinished.order(:id).limit(5).all.any? { |set| ChangeMany.round(set, moment.call(set.account_id)) }

      def imports(moment)
        Records::Import.working.order(:id).limit(5).all.any? do |import|
          at = moment.call(import.account_id)
          (import.state == "checking") ? CheckImport.new(import, @folder, at).call : TakeIn.new(import, at).round
        end
      end
    end
  end
end
