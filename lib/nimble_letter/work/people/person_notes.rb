# frozen_string_literal: true

module NimbleLetter
  module Work
    # Notes in people's histories, for many at once.
    module PersonNotes
      SLICE = 500

      # @param ids [Array<Integer>]
      # @return [Hash{Integer=>Array<String>}] texts by person, folded
      def self.folded(ids)
        rows = Records.db[:events].where(person_id: ids, kind: "note").select_map(%i[person_id data])
        rows.group_by(&:first).transform_values { |some| some.filter_map { |_, data| Core::Fold.call(JSON.parse(data)["text"]) } }
      end

      # @param notes [Array<Array(Integer, Array<String>)>] texts by person
      def self.append(notes, moment:, account_id: moment.account&.id)
        rows = notes.flat_map do |id, texts|
          texts.map { |text| ["note", id, moment.now, account_id, JSON.generate(text: text)] }
        end
        Records.db[:events].import(%i[kind person_id occurred_at account_id data], rows, slice: SLICE) if rows.any?
      end
    end
  end
end
