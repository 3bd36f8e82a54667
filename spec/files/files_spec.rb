# frozen_string_literal: true

RSpec.describe Files do
  def rows(path, reading = {}) = Files.open(path, Files.format_of(path), reading).each_row.to_a

  def headers(path) = Files.open(path, Files.format_of(path)).headers

  describe "CSV" do
    it "finds delimiter and encoding by itself" do
      text = "Name;Ort\nZoë;Köln\nAna;\"York; north\"\n"
      {
        "UTF-8" => text,
        "with a mark" => "\uFEFF#{text}",
        "Windows-1252" => text.encode("Windows-1252"),
        "UTF-16LE" => "\uFEFF#{text}".encode("UTF-16LE"),
        "UTF-16BE unmarked" => text.encode("UTF-16BE")
      }.each do |name, bytes|
        path = file_of(bytes)
        expect(headers(path)).to eq(%w[Name Ort]), name
        expect(rows(path)).to eq([[2, %w[Zoë Köln]], [3, ["Ana", "York; north"]]]), name
      end
    end

    it "reads tabs and bars, and takes another choice" do
      expect(headers(file_of("a\tb\n1\t2\n"))).to eq(%w[a b])
      expect(headers(file_of("a|b\n1|2\n"))).to eq(%w[a b])
      expect(Files::CsvFile.new(file_of("a,b;c\n"), "delimiter" => ";").headers).to eq(["a,b", "c"])
      expect { Files::CsvFile.new(file_of("a,b\n"), "delimiter" => "x") }.to raise_error(Invalid)
    end

    it "leaves out rows with nothing in them, and keeps count of lines" do
      expect(rows(file_of("a,b\n\n,\n1,2\n\"two\nlines\",3\n4,5\n")).map(&:first)).to eq([4, 5, 7])
    end

    it "reads three hundred columns, and says when there are too many" do
      wide = Array.new(300) { |n| "c#{n}" }.join(",")
      expect(headers(file_of("#{wide}\n")).size).to eq(300)
      expect { headers(file_of("#{Array.new(501, "c").join(",")}\n")) }.to raise_error(Files::Unreadable, /501 columns/)
    end

    it "says where a quote opens that never closes, without taking the rest of the file in" do
      path = file_of("a,b\n1,2\n3,\"never\n#{"x,y\n" * 200_000}")
      seen = 0
      expect { Files.open(path, "csv").each_row { seen += 1 } }.to raise_error(Files::Unreadable, /quotation mark opens/)
      expect(seen).to eq(1)
    end

    it "says that an empty file is empty" do
      expect { headers(file_of("\n\n")) }.to raise_error(Files::Unreadable, /nothing in this file/)
    end
  end

  describe "XLSX" do
    it "reads cells as what they are" do
      path = workbook([%w[Name Born Size], ["Zoë", Date.new(1980, 5, 12), 2.5], ["=1+1", nil, 3]])

      expect(headers(path)).to eq(%w[Name Born Size])
      expect(rows(path)).to eq([[2, ["Zoë", Date.new(1980, 5, 12), 2.5]], [3, ["=1+1", nil, 3]]])
      expect(Files.open(path, "xlsx").reading).to eq("sheet" => "People", "sheets" => ["People"])
    end

    it "refuses an archive that only pretends, a damaged one, and a bomb" do
      expect { headers(archive("hello.txt" => "hello")) }.to raise_error(Files::Unreadable, /cannot be read as one/)
      expect { headers(file_of("PK\x03\x04 and nothing more", ".xlsx")) }.to raise_error(Files::Unreadable)
      bomb = archive("xl/workbook.xml" => "<x/>", "xl/worksheets/sheet1.xml" => "0" * (60 * 1024 * 1024))
      expect { headers(bomb) }.to raise_error(Files::Unreadable, /Unpacked this file would be/)
    end
  end

  describe "vCard" do
    let(:cards) do
      <<~CARDS
        BEGIN:VCARD
        VERSION:3.0
        N:Måneløkke;Zoë;;Dr;
        FN:Dr Zoë Måneløkke
        EMAIL;TYPE=WORK:zoe@oyster.example
        TEL;TYPE=CELL:01632 960 115
        ORG:The Oyster Shed;Kitchen
        ADR;TYPE=WORK:;;1 Quay;Whitby;North Yorkshire;YO21;England
        BDAY:19800512
        END:VCARD
        BEGIN:VCARD
        VERSION:4.0
        FN:Bram Oduya
        EMAIL:bram@ladle.example
        ORG:Salt\\, Grass & Co
        END:VCARD
      CARDS
    end

    it "reads several cards of both versions" do
      first, second = rows(file_of(cards, ".vcf")).map { |_, cells| Files::VcardFile::COLUMNS.zip(cells).to_h.compact }

      expect(first).to include(
        "First name" => "Zoë",
        "Last name" => "Måneløkke",
        "Title" => "Dr",
        "Address" => "zoe@oyster.example",
        "Company" => "The Oyster Shed",
        "City" => "Whitby",
        "Birthday" => "1980-05-12"
      )
      expect(second).to include("First name" => "Bram", "Last name" => "Oduya", "Company" => "Salt, Grass & Co")
    end

    it "says when a card was cut off" do
      expect { rows(file_of(cards.lines[0..-2].join, ".vcf")) }.to raise_error(Files::Unreadable, /no end/)
    end
  end

  describe "out" do
    it "defuses what a spreadsheet would run, and leaves numbers alone" do
      expect(["=1+1", "@x", "+cmd|' /C calc'!A0", "-2+3+cmd", "\tx"].map { |text| Files::Defused.cell(text)[0] }).to all(eq("'"))
      wide = ["＝1+1", "＠x", "＋cmd", "－2+cmd", "−2+cmd", "|calc", "｜calc"]
      behind_white = [" =1", "\u00a0=1", "\ufeff=1", "\r=1", "\n=1", " \t@x", "\n|x"]
      (wide + behind_white).each do |text|
        expect(Files::Defused.cell(text)).to eq("'#{text}"), text.inspect
      end
      expect(["a|b", "a=1", "x@y.example", "–", "− 5", "(=)", " 5"].map { |value| Files::Defused.cell(value) }).to eq(
        ["a|b", "a=1", "x@y.example", "–", "− 5", "(=)", " 5"]
      )
      expect(["+44 1632 960 101", "-12.50", "Ana", 5, nil].map { |value| Files::Defused.cell(value) }).to eq(
        ["+44 1632 960 101", "-12.50", "Ana", 5, nil]
      )
    end

    it "comes back as it went, as CSV and XLSX" do
      table = [["Ana, \"the\" one", "two\nlines"], ["Ångström", nil]]
      %w[csv xlsx].each do |format|
        path = file_of("", ".#{format}")
        File.open(path, "wb") { |io| Files::TableOut.write(format, io, %w[A B], table) }
        expect(rows(path).map(&:last)).to eq(table), format
      end
    end

    it "writes vCards that read as they were" do
      path = file_of("", ".vcf")
      person = {
        full_name: "Zoë Måneløkke",
        first_name: "Zoë",
        last_name: "Måneløkke",
        email: "zoe@x.example",
        company: "Salt; Grass, Co",
        city: "York",
        birthday: Date.new(1980, 5, 12),
        tags: %w[press]
      }
      File.open(path, "wb") { |io| Files::VcardOut.write(io, [person, person.merge(last_name: "Å" * 90)]) }

      cells = rows(path).map { |_, row| Files::VcardFile::COLUMNS.zip(row).to_h.compact }
      expect(cells.first).to include(
        "First name" => "Zoë",
        "Last name" => "Måneløkke",
        "Company" => "Salt; Grass, Co",
        "City" => "York",
        "Birthday" => "1980-05-12",
        "Tag" => "press"
      )
      expect(cells.last["Last name"]).to eq("Å" * 90)
      expect(File.binread(path).split("\r\n").map(&:bytesize).max).to be <= 76
    end
  end
end
