# frozen_string_literal: true

module NimbleLetter
  module Records
    # A piece of mail that came back, whatever it turned out to be.
    class Incoming < Sequel::Model(:incoming)
      include Versioned

      KINDS = %w[reply automatic bounce unsubscribe unmatched].freeze
      SORTS = %w[new interested later no done].freeze

      many_to_one :person
      many_to_one :delivery

      dataset_module do
        # Newest first, from where the last page ended.
        def newest_first = order(Sequel.desc(:received_at), Sequel.desc(:id))

        def to_read = where(kind: %w[reply unmatched], sort: "new")
      end
    end
  end
end
