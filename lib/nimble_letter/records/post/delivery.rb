# frozen_string_literal: true

module NimbleLetter
  module Records
    # The next letter of a member, from the moment it has a time, to sent or not. What lies further ahead is reckoned.
    class Delivery < Sequel::Model(:deliveries)
      extend JsonColumn

      json_column :links

      many_to_one :member
      many_to_one :sequence
      many_to_one :step
      many_to_one :person
      many_to_one :letter
      many_to_one :mailbox

      # Not out yet, and still meant to go.
      STILL_DUE = %w[due claimed on_wire].freeze
      # Can be called back: nothing of it has reached the wire.
      CALLED_BACK = %w[due claimed].freeze

      dataset_module do
        def still_due = where(state: STILL_DUE)

        # Failed, and shown to somebody who may have them tried again.
        def set_aside = where(:state => "failed", Sequel[:deliveries][:id] => SetAside.where(kind: "letter").select(:delivery_id))

        # Those of which any of some kinds has been heard.
        def heard(*kinds) = where((Sequel[:deliveries][:heard].sql_number & Core::Results::Heard.bits(*kinds)) > 0)

        # @param now [Time] of the clock in use
        def ready(now, running)
          where(state: "due", sequence_id: running) { due_at <= now }.going.order(:due_at, :id)
        end

        # Without those whose member somebody has paused.
        def going = exclude(member_id: Member.exclude(paused_at: nil).select(:id))

        # Those whose failing nobody has to decide about.
        def not_set_aside = exclude(id: SetAside.exclude(delivery_id: nil).select(:delivery_id))

        # Without those whose member waits for somebody to decide about an earlier letter.
        def not_waiting
          exclude(member_id: Delivery.where(id: SetAside.exclude(delivery_id: nil).select(:delivery_id)).select(:member_id))
        end

        # Held by a worker that has not been heard of since.
        # @param server_time [Time] the database's clock
        def abandoned(server_time) = where(state: %w[claimed on_wire]) { leased_until < server_time }
      end
    end
  end
end
