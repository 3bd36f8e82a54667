# frozen_string_literal: true

RSpec.describe Core::Fields::Catalogue do
  subject(:catalogue) { Core::Fields::Standard.catalogue }

  describe "#named" do
    it "finds a field by key, label or bare name, however it is spaced" do
      expect(["person.first_name", "First Name", "first_name", " first  name "].map { |words| catalogue.named(words)&.key }.uniq).to eq(
        ["person.first_name"]
      )
    end

    it "is nil for what no field is called, or what is no word" do
      expect(["shoe size", "", nil].map { |words| catalogue.named(words) }).to eq([nil, nil, nil])
    end

    it "finds only what can be merged" do
      expect(catalogue.named("Standing")).to be_nil
    end
  end

  describe "#nearest" do
    it "offers the field whose name is nearest" do
      expect(%w[compny frist_name citty].map { |words| catalogue.nearest(words)&.key }).to eq(
        %w[company.name person.first_name person.city]
      )
    end

    it "offers none when nothing is near" do
      expect(catalogue.nearest("zzzzzz")).to be_nil
    end
  end

  describe "#with" do
    let(:room) { Core::Fields::Field.new(key: "person.x_room", label: "Room", type: :text, uses: %i[merge], custom_id: 1) }

    it "adds fields, and puts others in place of those with the same key" do
      other = Core::Fields::Field.new(key: "person.city", label: "Town", type: :text, uses: %i[merge])
      more = catalogue.with([room, other])

      expect([more["person.x_room"], more["person.city"].label, more.count]).to eq([room, "Town", catalogue.count + 1])
      expect(catalogue["person.city"].label).to eq("City")
    end

    it "offers a retired field nowhere, but knows it" do
      retired = Core::Fields::Field.new(key: "person.x_room", label: "Room", type: :text, uses: %i[merge], retired: true)
      more = catalogue.with([retired])

      expect(more["person.x_room"]).to eq(retired)
      expect(more.for(:merge)).not_to include(retired)
    end
  end

  describe "the standard fields" do
    it "each have an operator to ask with, and each operator a value it understands" do
      expect(catalogue.for(:condition)).to all(satisfy { |field| Core::Conditions::Operators.for(field.type).any? })
      expect(
        Core::Conditions::Operators::TABLE.values.flat_map(&:values).uniq - %i[list text number numbers span days months date dates none]
      ).to be_empty
    end

    it "each have a column if one can ask about them" do
      asked = catalogue.for(:condition).reject { |field| %i[tags lists].include?(field.type) }

      expect(asked.select { |field| field.table.nil? || field.column.nil? }.map(&:key)).to eq([])
    end

    it "can be told from each other in every menu" do
      %i[condition merge column import].each do |use|
        expect(catalogue.for(use).map(&:label).tally.select { |_, count| count > 1 }).to eq({})
      end
    end

    it "name what stands behind those that are worked out" do
      expect(catalogue.filter_map(&:comes_from).uniq - catalogue.map(&:key)).to eq([])
    end
  end
end
