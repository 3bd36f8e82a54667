# frozen_string_literal: true

RSpec.describe Core::Letters::Locale do
  def locale(language) = described_class.for(language)

  describe ".for" do
    it "writes a language it does not know like English" do
      expect(["ja", nil, "xx"].map { |language| locale(language).language }.uniq).to eq(["en"])
    end
  end

  describe "#date" do
    it "writes the day out in each language" do
      expect(%w[en de fr nl es it cy].map { |language| locale(language).date(Date.new(2026, 8, 3), "long") }).to eq(
        ["3 August 2026", "3. August 2026", "3 août 2026", "3 augustus 2026", "3 de agosto de 2026", "3 agosto 2026", "3 Awst 2026"]
      )
    end

    it "writes it short" do
      expect(%w[en de nl].map { |language| locale(language).date(Date.new(2026, 8, 3), "short") }).to eq(
        %w[03/08/2026 03.08.2026 03-08-2026]
      )
    end

    it "knows every month and weekday by a name of its own" do
      described_class::LANGUAGES.each_value do |ways|
        expect([ways[:months].uniq.size, ways[:weekdays].uniq.size]).to eq([12, 7])
        expect(ways[:dates].keys).to match_array(described_class::DATES.keys)
      end
    end
  end

  describe "#number" do
    it "groups thousands and marks the fraction as each language does" do
      expect(%w[en de fr].map { |language| locale(language).number(BigDecimal("1234567.5")) }).to eq(
        ["1,234,567.5", "1.234.567,5", "1\u202f234\u202f567,5"]
      )
    end

    it "keeps the sign before small and large numbers" do
      expect([-3, -1234].map { |number| locale("en").number(number) }).to eq(["-3", "-1,234"])
    end

    it "rounds, and never to less than nothing" do
      expect([12.6, 0.4, -0.4, BigDecimal("-0.4")].map { |number| locale("en").number(number, decimals: 0) }).to eq(%w[13 0 0 0])
    end
  end

  describe "#money" do
    it "puts the sign where each language does" do
      expect(%w[en de nl cy].map { |language| locale(language).money(125_000) }).to eq(["£1,250", "1.250 £", "£ 1.250", "£1,250"])
    end

    it "writes pence when there are some, or when told to" do
      expect([locale("en").money(125_050), locale("en").money(125_000, exact: true), locale("en").money(5)]).to eq(
        %w[£1,250.50 £1,250.00 £0.05]
      )
    end
  end

  describe "#possessive" do
    it "follows each language, which may leave the name as it is" do
      said = {
        "en" => {"Ana" => "Ana’s", "Lois" => "Lois’"},
        "de" => {"Anna" => "Annas", "Max" => "Max’"},
        "nl" => {"Anna" => "Anna’s", "Jan" => "Jans", "Max" => "Max’"},
        "fr" => {"Anna" => "d’Anna", "Élodie" => "d’Élodie", "Marie" => "de Marie"},
        "es" => {"Ana" => "de Ana"},
        "it" => {"Ana" => "di Ana"},
        "cy" => {"Ana" => "Ana"}
      }
      said.each { |language, names| expect(names.to_h { |name, _| [name, locale(language).possessive(name)] }).to eq(names), language }
    end
  end

  describe "words of ours" do
    it "are known in every language that letters are written in" do
      languages = Core::Letters::Locale::LANGUAGES.keys
      expect(Core::Letters::Vocabulary::FLAGS.keys).to match_array(languages)
      expect([*Core::Letters::Vocabulary::ORDER, "en"]).to match_array(languages)
      ours = [*Core::Fields::Catalogue::COMPANY_TYPE.values, *Practice::Weather::SKIES]
      ours.each { |words| expect(Core::Letters::Vocabulary::WORDS.fetch(words).compact.size).to eq(languages.size - 1), words }
      expect([locale("de").flag(true), locale("fr").flag(false), locale("de").word("school"), locale("de").word("felt")]).to eq(
        %w[ja non Schule felt]
      )
    end
  end
end

RSpec.describe Core::Letters::Foot do
  it "names the way out in the letter's language, and in English where it has no words" do
    expect(%w[en ja].map { |language| described_class.new(language: language).words }.uniq).to eq(["Please don't write to me again"])
    expect(%w[de fr nl es it cy].map { |language| described_class.new(language: language).words }.uniq.size).to eq(6)
  end
end
