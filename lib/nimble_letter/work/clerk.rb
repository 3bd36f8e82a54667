# frozen_string_literal: true

module NimbleLetter
  module Work
    # What goes on in the background: fields that are made, files that are checked and taken in, acts on many records and
    # their taking back, the emptying of the bin, and the forgetting of what is old. Several clerks may work beside each other;
    # each piece is done by one of them.
    class Clerk
      AT_ONCE = 5

      # Sessions that ended are kept a little longer than any can last.
      SESSIONS_KEPT_SECONDS = 24 * 3600

      # @param folder [String] where files that are brought in are kept
      # @param owner [Records::Owner] for making columns
      def initialize(folder, owner)
        @folder, @columns = folder, MakeColumns.new(owner)
      end

      # Does one piece of what is waiting.
      # @param now [Time] of the clock in use
      # @return [Boolean] whether there was something to do
      def round(now)
        moment = ->(account_id) { Moment.new(now: now, account: account_id && Records::Account[account_id]) }
        fields(moment) || changes(moment) || imports(moment) || PutInBin.empty_old(moment.call(nil)).positive? ||
          ForgetFiles.call(@folder, moment.call(nil)).positive? || Records::Allowances.forget_old.positive? ||
          Records::Session.forget_ended(SESSIONS_KEPT_SECONDS).positive? || SweepNoes.daily(moment.call(nil)).positive?
      end

      # Works until nothing is waiting.
      def finish(now)
        nil while round(now)
      end

      private

      def fields(moment)
        waiting("field", Records::CustomField.where(made: false)).any? do |field|
          piece("field", field, moment) { @columns.call(field) }
        end
      end

      def changes(moment)
        waiting("act", Records::ChangeSet.unfinished).any? do |set|
          piece("act", set, moment) { |at| ChangeMany.round(set, at) }
        end
      end

      def imports(moment)
        coming = Records::CustomField.where(made: false).map { |field| field.to_field.key }
        first = nil
        waiting("file", Records::Import.working).any? do |import|
          # One file after the other: the next is held against what this one has brought in.
          next false if import.state == "taking_in" && (first ||= import.id) != import.id

          # A column whose field is still being made is read when it is.
          next false if (import.matching || []).any? { |match| coming.include?(match["field"]) }

          piece("file", import, moment) do |at|
            (import.state == "checking") ? CheckImport.new(import, @folder, at).call : TakeIn.new(import, at).round
          end
        end
      end

      # Those that were set aside wait for somebody to say "again".
      def waiting(kind, records)
        left_alone = Records::SetAside.left_alone(kind).map(&:to_i)
        records.exclude(id: left_alone).order(:id).limit(AT_ONCE).all
      end

      # A piece that cannot be worked on is set aside with all of its record; what was done of it stays done.
      # @return [Boolean] whether something was done
      def piece(kind, record, moment)
        at = moment.call(record.values[:account_id])
        done = PutAside.guard(kind, record.id, at: at.now) { yield(at) ? :something : :nothing }
        PutAside.done(kind, record.id) if done
        done != :nothing
      end
    end
  end
end
