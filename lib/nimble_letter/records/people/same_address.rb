# frozen_string_literal: true

module NimbleLetter
  module Records
    # Which twin of an address is compared when it matters whether two records have the same one: a "no", one letter to each
    # address, one member of a sequence. Which record a file or a mail is about is told by the whole address.
    module SameAddress
      class << self
        # @return [Symbol] column of people
        def column = tags_cut? ? :email_trunk : :email_fold

        # @return [Symbol] column of the do-not-mail list
        def blocked_column = tags_cut? ? :value_trunk : :value_fold

        # @param folds [Array<String, nil>] addresses, folded
        # @return [Array<String>] what stands in `column` for them
        def keys(folds) = folds.compact.then { |all| tags_cut? ? all.map { |fold| Core::SameAddress.trunk(fold) } : all }.uniq

        private

        def tags_cut? = Firm.current.plus_tags == "same"
      end
    end
  end
end
