# frozen_string_literal: true

module NimbleLetter
  module Processes
    # A Ruby prompt with the firm loaded, for finding the reason of something. What it changes is changed.
    class Console
      def run
        require "irb"
        puts "person \"Tamsin\" · company \"Copper\" · sequence \"Quieter\" · letter \"Winter\" · delivery 12 · now · moment"
        binding.irb # standard:disable Lint/Debugger
      end

      # @param asked [String, Integer] words of the name or address, or the number
      # @return [Records::Person, nil]
      def person(asked) = found(Records::Person, asked, %i[first_name last_name email])

      # @return [Records::Company, nil]
      def company(asked) = found(Records::Company, asked, [:name])

      # @return [Records::Sequence, nil]
      def sequence(asked) = found(Records::Sequence, asked, [:name])

      # @return [Records::Letter, nil]
      def letter(asked) = found(Records::Letter, asked, [:name])

      # @return [Records::Delivery, nil]
      def delivery(id) = Records::Delivery[id]

      # @return [Time] by the practice clock
      def now = Practice::Clock.new.now

      # What acts and questions take: the time, and the first account's eyes.
      def moment = Work::Moment.new(now: now, account: Records::Account.order(:id).first)

      private

      # The first that has all of the words, in any of its columns.
      def found(model, asked, columns)
        return model[asked] if asked.is_a?(Integer)

        asked.split.reduce(model.order(:id)) { |rows, word|
          rows.where(Sequel.|(*columns.map { |column| Sequel.ilike(column, "%#{rows.escape_like(word)}%") }))
        }.first
      end
    end
  end
end
