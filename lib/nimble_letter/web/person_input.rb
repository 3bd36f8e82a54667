# frozen_string_literal: true

module NimbleLetter
  module Web
    # What was sent about a person, as columns. A company is named; one that is not known yet is made.
    module PersonInput
      # @param input [Hash{Symbol=>Object}]
      # @return [Hash{Symbol=>Object}]
      def self.columns(input, moment)
        columns = input.slice(*Work::ChangePerson::COLUMNS)
        if columns[:owner_id] && Records::Account[columns[:owner_id]].nil?
          raise Invalid.new("There is no such colleague.", at: "owner_id")
        end
        input.key?(:company) ? columns.merge(company_id: company(input[:company], moment)) : columns
      end

      def self.company(name, moment)
        fold = Core::Fold.call(name) or return
        Records::Company.where(name_fold: fold).get(:id) || Records::Company.create(name: Core::Letters::Values.say(name), created_at: moment.now).id
      end
      private_class_method :company
    end
  end
end
