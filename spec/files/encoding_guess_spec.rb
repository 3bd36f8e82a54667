# frozen_string_literal: true

require "tempfile"
require "yaml"

RSpec.describe NimbleLetter::Files::EncodingGuess do
  let(:tables) { YAML.load_file(File.join(__dir__, "../fixtures/encodings.yml")) }

  def file_of(bytes) = (@files ||= []).push(Tempfile.new("rows", binmode: true)).last.tap { |file| file.write(bytes) && file.flush }.path

  def each_table
    tables.each { |name, table| table["encodings"].each { |encoding| yield name, "#{table["rows"].join("\n")}\n", encoding } }
  end

  it "finds an encoding in which every row reads as it was written, in twenty-three languages" do
    expect(tables.keys.map { |name| name.delete("0-9") }.uniq.size).to eq(23)
    each_table do |name, text, encoding|
      path = file_of(text.encode(encoding))
      read = NimbleLetter::Files::TextEncoding.open(path, NimbleLetter::Files::TextEncoding.guess(path), &:read)
      expect(read).to eq(text), "#{name} in #{encoding}"
    end
  end

  it "shows how a file reads in every encoding that can be chosen" do
    each_table do |name, text, encoding|
      known = NimbleLetter::Files::TextEncoding.samples(file_of(text.encode(encoding)))
      telling = text.scan(/[^,;:\t\n]*[^\x00-\x7f][^,;:\t\n]*/).first
      shown = known.find { |one| one[:name] == Encoding.find(encoding).name }[:sample]
      expect(shown).to start_with(telling[0, 60]), "#{name} in #{encoding}"
    end
  end

  it "refuses an encoding that nothing reads" do
    expect { NimbleLetter::Files::TextEncoding.open(file_of("x"), "Klingon") { nil } }.to raise_error(NimbleLetter::Invalid, /Klingon/)
  end
end
