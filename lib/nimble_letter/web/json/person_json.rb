# frozen_string_literal: true

module NimbleLetter
  module Web
    # One person as the contract has it: the record's fields by key, and what belongs to it.
    module PersonJson
      # @param person [Records::Person]
      def self.write(person)
        PersonRows
          .write([person])
          .first
          .merge(
            version: person.version,
            values: values(person),
            company_id: person.company_id,
            company_type: person.company&.type,
            tags: person.tags.map(&:name).sort,
            lists: person.lists.map { |list| {id: list.id, name: list.name} },
            addresses: person.other_addresses.map { |one| {id: one.id, email: one.email} },
            consent_by: person.consent_by_id && Records::Account.where(id: person.consent_by_id).get(:name),
            blocked: blocked(person),
            no_from: no_from(person),
            deleted_at: person.deleted_at,
            created_at: person.created_at,
            deals: DealJson.rows(person.deals_dataset),
            memberships: memberships(person)
          )
      end

      # @return [Hash{String=>Object}] what can be seen and changed on the record, as JSON keeps it
      def self.values(person)
        fields =
          Records::FieldCatalogue.current.select do |field|
            field.table == :people && field.column && field.for?(:column) && !%i[tags lists].include?(field.type)
          end
        fields.to_h { |field| [field.key, Work::RecordState.to_json_value(field, person[field.column])] }
      end

      def self.blocked(person)
        return unless person.address_blocked

        block = Records::BlockedAddress.about(person.email_fold).first
        block && {kind: block.kind, value: block.value, reason: block.reason}
      end
      private_class_method :blocked

      # Other records with this address that say no, in the bin or not.
      def self.no_from(person)
        return [] unless person.no_at_address

        Records::Person
          .exclude(Sequel[:people][:id] => person.id)
          .at_address(person.email_fold)
          .saying_no
          .order(Sequel[:people][:id])
          .all
          .map { |one| {id: one.id, name: one.name, binned: !one.deleted_at.nil?} }
      end
      private_class_method :no_from

      def self.memberships(person)
        members = person.members_dataset.eager(:sequence).order(Sequel.desc(:id)).all
        ladders = Work::MemberStatus.of_sequences(members.map(&:sequence_id))
        members.map do |member|
          {
            sequence_id: member.sequence_id,
            sequence: member.sequence.name,
            state: member.state,
            status: ladders[member.sequence_id].words(member.status)
          }
        end
      end
      private_class_method :memberships
    end
  end
end
