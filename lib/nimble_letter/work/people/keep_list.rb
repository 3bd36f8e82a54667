# frozen_string_literal: true

module NimbleLetter
  module Work
    # Makes a list: empty, or of people as they are found at this moment.
    module KeepList
      MOST = 50_000

      # @param people [Sequel::Dataset, nil]
      # @param made_from [String, nil] what they were found by, in words
      # @return [Records::List]
      def self.make(name, people, moment:, made_from: nil)
        Records.db.transaction do
          list =
            Records::List.create(
              name: name.to_s.strip,
              account_id: moment.account&.id,
              made_from: made_from&.slice(0, 300),
              created_at: moment.now,
              updated_at: moment.now
            )
          list.put(people.unordered) if people
          size = Records.db[:list_people].where(list_id: list.id).count
          if size > MOST
            raise Invalid.new(
              "A list holds up to #{MOST} people; these are #{size}.",
              at: "from",
              hint: "A saved filter has no such limit, and stays current."
            )
          end

          list
        end
      end
    end
  end
end
