# frozen_string_literal: true

# Fields the firm made are columns of their own, and making a column ends the transaction of an example. So they are made
# once, for all examples marked `:own_fields`, and an example tells the catalogue of them inside its transaction.
module OwnFields
  FIELDS = [
    %w[Paint text],
    %w[Remarks long_text],
    %w[Height number],
    %w[Budget money],
    %w[Measured date],
    %w[Keyholder flag],
    %w[Plan link],
    ["Ceiling", "choice", {"oak" => "oak", "felt" => "felt"}],
    ["Rooms", "choices", {"hall" => "hall", "bar" => "bar"}]
  ].freeze

  def self.add_columns
    return if Records.db.schema(:people, reload: true).any? { |name, _| name == :x_paint }

    owner = Records::Owner.new(TestDatabase.configuration)
    owner.open do |db|
      FIELDS.each { |label, type| Work::MakeColumns.new(owner).add(db, :people, :"x_#{label.downcase}", type.to_sym) }
    end
  end

  def make_own_fields
    FIELDS.each do |label, type, choices|
      Records::CustomField.create(
        subject: "person",
        name: label.downcase,
        label: label,
        type: type,
        choices: choices,
        made: true,
        created_at: Builders::NOW,
        updated_at: Builders::NOW
      )
    end
  end
end

RSpec.configure do |config|
  config.include OwnFields
  config.before(:context, :own_fields) do
    TestDatabase.start
    OwnFields.add_columns
  end
end
