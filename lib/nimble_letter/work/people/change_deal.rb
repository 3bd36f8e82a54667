# frozen_string_literal: true

module NimbleLetter
  module Work
    # Makes and changes a deal, and appends to the person's history what it came to.
    module ChangeDeal
      COLUMNS = %i[name stage value_pence expected_on owner_id].freeze

      # @param values [Hash{Symbol=>Object}] of COLUMNS
      # @return [Records::Deal]
      def self.create(person, values, moment:)
        Records.db.transaction do
          deal = Records::Deal.new(person_id: person.id, company_id: person.company_id, created_at: moment.now, updated_at: moment.now)
          put(deal, {stage: Records::FieldCatalogue.deal_stages.first["key"], owner_id: person.owner_id, **values}, moment)
          deal.save
          append(deal, nil, moment)
          deal
        end
      end

      # @param within [Hash] sequence_id, step_id and member_id that did it
      # @raise [Invalid, Conflict]
      def self.call(deal, values, version:, moment:, within: {})
        Records.db.transaction do
          before = deal.stage
          changes = put(Records::Deal.new, values, moment).values
          changes[:closed_on] = closed_on(deal, changes[:stage], moment) if changes[:stage]
          deal.change!(changes, version: version, now: moment.now)
          append(deal, before, moment, within) unless deal.stage == before
          ReckonAnew.for_people(Records::Person.where(id: deal.person_id), values.keys.map { |name| "deal.#{name}" }, moment)
        end
        deal
      end

      def self.put(deal, values, moment)
        values = values.slice(*COLUMNS)
        values[:name] = Core::Letters::Values.clean(values[:name])&.slice(0, 200) if values.key?(:name)
        values[:expected_on] = moment.taking.take(moment.catalogue["deal.expected_on"], values[:expected_on]) if values.key?(:expected_on)
        raise Invalid.new("There is no such stage.", at: "stage") if values[:stage] && stage(values[:stage]).nil?
        raise Invalid.new("There is no such colleague.", at: "owner_id") if values[:owner_id] && Records::Account[values[:owner_id]].nil?

        deal.set(values)
        deal.closed_on = closed_on(deal, values[:stage], moment) if deal.new? && values[:stage] && deal.person_id
        deal
      end
      private_class_method :put

      def self.stage(key) = Records::FieldCatalogue.deal_stages.find { |stage| stage["key"] == key }
      private_class_method :stage

      # Won and lost are dated; a deal that is open again has no such day.
      def self.closed_on(deal, key, moment) = (stage(key)["outcome"] == "open") ? nil : (deal.closed_on || moment.today)
      private_class_method :closed_on

      def self.append(deal, before, moment, within = {})
        words = ->(key) { key && (stage(key)&.[]("words") || key) }
        data = JSON.generate(field: "Deal “#{deal.name}”", from: words.call(before), to: words.call(deal.stage))
        Records.db[:events].insert(
          kind: "field_changed",
          person_id: deal.person_id,
          occurred_at: moment.now,
          account_id: moment.account&.id,
          data: data,
          **within
        )
      end
      private_class_method :append
    end
  end
end
