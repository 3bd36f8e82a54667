# frozen_string_literal: true

module NimbleLetter
  module Records
    # Something that could not be worked on, with its reason and tries. It waits here for a person and stops nothing else.
    # The key is the thing's own: a file's name, a number.
    class SetAside < Sequel::Model(:set_asides)
      KINDS = %w[mail letter reaction act file round field journey joining no].freeze

      many_to_one :delivery

      dataset_module do
        def newest_first = order(Sequel.desc(:last_at), Sequel.desc(:id))

        # Letters that wait for a gap to be filled.
        def with_gap = where(Sequel[:set_asides][:kind] => "letter").exclude(Sequel[:set_asides][:lacks] => nil)

        # What nobody has asked to be tried again.
        def resting = where(Sequel[:set_asides][:again] => false)

        # @return [Array<String>] keys of that kind that are to be left alone
        def left_alone(kind) = where(kind: kind).resting.select_map(:key)
      end
    end
  end
end
