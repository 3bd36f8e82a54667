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

    it "finds the row that names the columns: below a title and what the delimiter is, or nowhere" do
      {
        "sep=;\nName;Mail\nAna;a@x.example\n" => [%w[Name Mail], [[3, %w[Ana a@x.example]]]],
        "Contacts, May 2026\n\nName,Mail,Town\nAna,a@x.example,York\n" => [%w[Name Mail Town], [[4, %w[Ana a@x.example York]]]],
        "Ana,a@x.example\nBo,b@x.example\n" => [["Column 1", "Column 2"], [[1, %w[Ana a@x.example]], [2, %w[Bo b@x.example]]]],
        "Ana;01632 960 101\n" => [["Column 1", "Column 2"], [[1, ["Ana", "01632 960 101"]]]],
        "E-Mail,2026,Vorname\na@x.example,1,Ana\n" => [%w[E-Mail 2026 Vorname], [[2, %w[a@x.example 1 Ana]]]]
      }.each { |text, (names, found)| expect([headers(file_of(text)), rows(file_of(text))]).to eq([names, found]), text }
    end

    it "takes another row for the headers, or none, when that is said" do
      path = file_of("x,y\nName,Mail\nAna,a@x.example\n")
      expect(Files.open(path, "csv", "header" => 2).each_row.to_a).to eq([[3, %w[Ana a@x.example]]])
      expect(Files.open(path, "csv", "header" => 0).headers).to eq(["Column 1", "Column 2"])
      expect { Files.open(path, "csv", "header" => -1) }.to raise_error(Invalid)
    end

    it "tells Western alphabets apart by where their letters stand" do
      text = "Name;Ort\nJörg;Münster\nZoë;Besançon\n"
      %w[MacRoman Windows-1252].each do |encoding|
        path = file_of(text.encode(encoding))
        expect(Files.open(path, "csv").reading["encoding"]).to eq(encoding)
        expect(rows(path)).to eq([[2, %w[Jörg Münster]], [3, %w[Zoë Besançon]]])
      end
    end

    it "finds the delimiter behind line breaks and other marks within cells" do
      path = file_of("A,B,C\n\"x; y\nz; w\",1,2\n\"p; q\n; r\",3,4\n")
      expect(rows(path).map(&:last)).to eq([["x; y\nz; w", "1", "2"], ["p; q\n; r", "3", "4"]])
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
      expect(Files.open(path, "xlsx").reading).to eq("sheet" => "People", "sheets" => ["People"], "header" => 1)
    end

    it "refuses an archive that only pretends, a damaged one, and a bomb" do
      expect { headers(archive("hello.txt" => "hello")) }.to raise_error(Files::Unreadable, /This is an archive/)
      expect { headers(archive("xl/workbook.xml" => "no sheets")) }.to raise_error(Files::Unreadable, /cannot be read as one/)
      expect { headers(file_of("PK\x03\x04 and nothing more", ".xlsx")) }.to raise_error(Files::Unreadable)
      bomb = archive("xl/workbook.xml" => "<x/>", "xl/worksheets/sheet1.xml" => "0" * (60 * 1024 * 1024))
      expect { headers(bomb) }.to raise_error(Files::Unreadable, /Unpacked this file would be/)
    end
  end

  describe "what is no table" do
    it "is told by its name" do
      {
        "\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1".b => /old document of an office program/,
        "%PDF-1.7\n".b => /a PDF/,
        "\x89PNG\r\n\x1A\n".b => /a picture/,
        "MZ\x90\x00\x03\x00".b => /a program/,
        "\x1A\x45\xDF\xA3".b => /a sound or a film/,
        "7z\xBC\xAF\x27\x1C".b => /an archive/,
        "SQLite format 3\0" => /a database/,
        "{\\rtf1 ".b => /RTF/,
        "<!DOCTYPE html><p>".b => /a page in HTML/,
        ("\x00\x01\x02\x03\x04\x05\x06\x07" * 40).b => /bytes, not of text/
      }.each { |bytes, words| expect { headers(file_of(bytes)) }.to raise_error(Files::Unreadable, words) }
      expect { headers(archive("word/document.xml" => "<x/>")) }.to raise_error(Files::Unreadable, /a text document/)
    end

    it "is not seen in a table that only looks odd" do
      [
        "Name\nPDF-lovers\n", "\uFEFFName\nZoë\n", "BM\nAna\n", "MZ,Name\n1,Ana\n", "ID3\nAna\n", "FLV;Gr\xF6\xDFe\n1;2\n".b,
        "SAP\r\n17\r\n", "<svg>\nAna\n", "Name\nAna\u0007\n"
      ].each do |text|
        expect(headers(file_of(text))).not_to be_empty
      end
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

    it "reads the old version: quoted-printable in its own alphabet, several numbers and addresses by preference, notes" do
      card = <<~CARD
        BEGIN:VCARD
        VERSION:2.1
        N;CHARSET=ISO-8859-1;ENCODING=QUOTED-PRINTABLE:M=FCller;J=F6rg;Maria;Dr.
        TEL;WORK;FAX:123 456
        TEL;CELL;PREF:+49 170 1234567
        TEL;WORK;VOICE:030 123456
        EMAIL;INTERNET:second@x.example
        EMAIL;PREF;INTERNET:first@x.example
        NOTE;ENCODING=QUOTED-PRINTABLE:Zeile eins=0D=0A=
        Zeile zwei
        PHOTO;ENCODING=BASE64;TYPE=JPEG:
         /9j/4AAQSkZJRgABAQAAAQABAAD

        BDAY:--0415
        END:VCARD
      CARD
      expect(rows(file_of(card, ".vcf")).map { |_, cells| Files::VcardFile::COLUMNS.zip(cells).to_h.compact }).to eq(
        [
          {
            "First name" => "Jörg Maria",
            "Last name" => "Müller",
            "Title" => "Dr.",
            "Address" => "first@x.example",
            "Further addresses" => "second@x.example",
            "Phone" => "030 123456",
            "Mobile" => "+49 170 1234567",
            "Birthday" => "--0415",
            "Note" => "Zeile eins\nZeile zwei"
          }
        ]
      )
    end

    it "takes the preferred address of the new version, and marks within names and tags" do
      card = "BEGIN:VCARD\nVERSION:4.0\nN:de la\\, Cruz;Ana,Maria;;;\nitem1.EMAIL;PREF=50:b@x.example\n" \
        "EMAIL;PREF=1;TYPE=home:a@x.example\nCATEGORIES:press,felt\\, grey\nX-PERSON-FITTED-ON:2020-01-02\nEND:VCARD\n"
      path = file_of(card, ".vcf")
      expect(headers(path).zip(rows(path).first.last).to_h.compact).to eq(
        "First name" => "Ana Maria",
        "Last name" => "de la, Cruz",
        "Address" => "a@x.example",
        "Further addresses" => "b@x.example",
        "Tag" => %("felt, grey"; press).split("; ").reverse.join("; "),
        "X-PERSON-FITTED-ON" => "2020-01-02"
      )
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
