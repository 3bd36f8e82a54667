# frozen_string_literal: true

RSpec.describe Core::Safety::PasswordChoice do
  subject(:choice) { described_class.new(["Maren Holt", "maren@ternandfallow.example", "Tern & Fallow Acoustics", "Nimble Letter", nil]) }

  it "takes what nobody would guess" do
    ["quiet rooms 2026", "quiet-rooms-2026", "vier Stühle am Fenster", "дом у тихой реки", "k7#Vq!x2Zp0w"].each do |password|
      expect(choice.fault(password)).to be_nil, password
    end
  end

  it "says what is wrong with what would be" do
    {
      "short" => /\AA password has at least 12 characters\.\z/,
      "password1234" => /very common password/,
      "qwertyuiop12" => /commonly used/,
      "aaaaaaaaaaaa" => /Repeats/,
      " " * 12 => /Repeats/,
      "abcdefghijklmnop" => /Sequences/,
      "maren@ternandfallow.example" => /“maren.*” is known to everybody who knows you or the firm/,
      "ternandfallow2026" => /“ternandfallow” is known/,
      "TernFallowAcoustics" => /is known/,
      "nimbleletter1" => /“nimbleletter” is known/,
      "MarenHolt1980" => /is known/
    }.each { |password, words| expect(choice.fault(password)).to match(words), "#{password.inspect}: #{choice.fault(password)}" }
  end

  it "refuses every common password that is long enough" do
    long = Zxcvbn.frequency_lists["passwords"].select { |one| one.size >= described_class::LEAST }
    expect(long.size).to be > 100
    expect(long.select { |one| choice.fault(one).nil? }).to eq([])
  end
end
