# frozen_string_literal: true

RSpec.describe "a file with something wrong in it" do
  include_context "with files that are brought in"

  it "leaves nothing behind that waits when a file cannot be read" do
    ["%PDF-1.4\n", "", "Email,Town\n1,\"never\n#{"x,y\n" * 30_000}"].each do |text|
      expect { receive(text) }.to raise_error(Invalid)
    end
    expect([Records::Import.count, Dir.children(@folder)]).to eq([0, []])
  end

  it "comes back with the refused rows as they stood, each with its line and its reason" do
    import =
      bring(
        "Email,Surname,Standing,Note\nx@y,Lark,lead,=1+1\nb@x.example,Reyes,king,\nb@y.example,Moraine,lead,\nB@Y.example,Again,lead,\n," \
        ",lead,\n"
      )

    expect(import.counts).to eq("new" => 2, "partly" => 1, "refused" => 3)
    table = CSV.parse(Work::RefusedRows.file(import).read.force_encoding("UTF-8").delete_prefix("\uFEFF"))
    expect(table.first).to eq(%w[Email Surname Standing Note Line Reason])
    expect(table[1]).to eq(["x@y", "Lark", "lead", "'=1+1", "2", "“x@y” does not look like an address."])
    expect(table.drop(2).map(&:last)).to match(
      [/Standing is not “king”/, "The address is in line 4 of this file already.",
        "There is neither a name, a company nor an address in it."]
    )
  end

  it "refuses to take the same file twice by mistake" do
    bring("Email\na@x.example\n")
    again = receive("Email\na@x.example\n")

    expect { check(again) }.to raise_error(Conflict) { |error| expect(error.code).to eq(:same_file) }
    expect(check(again.refresh, again: true).counts).to eq("same" => 1)
  end

  it "takes two files at once, each by itself" do
    first, second = receive("Email\na@x.example\n"), receive("Email\na@x.example\nb@x.example\n")
    [first, second].each { |import| check(import) }
    [first, second].each { |import| Work::StartImport.take(import.refresh, {}, version: import.version, moment: at) }
    clerk.finish(now)

    expect(Records::Person.where(email: "b@x.example").count).to eq(1)
    expect([first, second].map { |import| import.refresh.state }).to eq(%w[done done])
  end

  it "says what is wrong with a matching, a field that is gone, or a file that is empty" do
    import = receive("Email,Town\na@x.example,York\n")

    expect { check(import, matching: %w[person.email person.email]) }.to raise_error(Invalid, /Two columns are meant for address/)
    expect { check(import, matching: %w[person.shoe person.email]) }.to raise_error(Invalid) { |error|
      expect(error.code).to eq(:unknown_field)
    }
    expect { check(import, matching: [nil, "person.city"]) }.to raise_error(Invalid, /No column is meant for a name/)
    expect { receive("") }.to raise_error(Invalid, /nothing in this file/)
    expect(Dir.children(@folder).size).to eq(1)
  end

  it "refuses a row with a NUL byte or a line break in the address, and reads the rest" do
    import = check(receive("Email,Surname\na@x.example,L\u0000rk\n\"b@x.\nexample\",Reyes\nc@x.example,Moraine\n"))

    expect(import.counts).to eq("refused" => 2, "new" => 1)
    expect(rows(import, "refused").map { |row| row[:reason] }).to match([/NUL byte in last name/, /line break in the address/])
  end

  it "says where a file breaks off, and keeps all records as they were" do
    good = Array.new(300) { |n| "p#{n}@x.example,Lark\n" }.join
    import = check(receive("Email,Surname\n#{good}b@x.example,\"Reyes\n#{"c@x.example,x\n" * 20_000}"))

    expect(import).to have_attributes(
      state: "failed",
      problem: /From line 302 on this file cannot be read: a quotation mark opens there/
    )
    expect(Records::Person.count).to eq(0)
  end

  it "takes regular expressions and SQL for what they are: words" do
    bring("Email,Surname\na@x.example,'; DROP TABLE people; --\nb@x.example,(.*)+\n")

    expect(Records::Person.order(:email).select_map(:last_name)).to eq(["'; DROP TABLE people; --", "(.*)+"])
  end
end
