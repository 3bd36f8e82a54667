# frozen_string_literal: true

module NimbleLetter
  module Records
    # The organisation a person belongs to.
    class Company < Sequel::Model(:companies)
      one_to_many :people

      def before_save
        set(name_fold: Core::Fold.call(name), city_fold: Core::Fold.call(city))
        super
      end
    end
  end
end
