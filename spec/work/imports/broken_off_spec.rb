# frozen_string_literal: true

RSpec.describe "a file whose clerk is stopped" do
  include_context "with files that are brought in"

  it "takes a row in once, however often the clerk is stopped on the way" do
    stub_const("NimbleLetter::Work::TakeIn::SLICE", 3)
    import = check(receive("Email\n#{Array.new(10) { |n| "p#{n}@x.example\n" }.join}"))
    Work::StartImport.take(import, {}, version: import.version, moment: at)
    2.times { Work::TakeIn.new(import, at).round }
    expect { Work::TakeBack.start(import.change_set, moment: at) }.to raise_error(Invalid) { |error|
      expect(error.code).to eq(:still_running)
    }
    # Killed before the commit: the slice is taken back whole.
    Records.db.transaction(savepoint: true) do
      Work::TakeIn.new(import.refresh, at).round
      raise Sequel::Rollback
    end

    expect(Records::Person.count).to eq(6)
    clerk.finish(now)
    expect(Records::Person.count).to eq(10)
    expect(import.refresh).to have_attributes(state: "done")
    expect(import.change_set.handled).to eq(10)
  end

  describe "a check" do
    before { stub_const("NimbleLetter::Work::LayOutFile::PIECE", 3) }

    def check_of(text, matching = ["person.email"])
      receive(text).tap do |import|
        Work::StartImport.check(import, matching, {}, version: import.version, folder: @folder, moment: at)
      end
    end

    def checking(import) = Work::CheckImport.new(Records::Import[import.id], @folder, at)

    let(:text) { "Email\n#{Array.new(10) { |n| "p#{n % 7}@x.example\n" }.join}" }

    it "goes on where it was broken off, and finds one address twice across its pieces" do
      import = check_of(text)
      while Records::Import[import.id].state == "checking"
        Records.db.transaction do
          checking(import).call
          raise Sequel::Rollback
        end
        checking(import).call
      end
      expect(import.refresh).to have_attributes(state: "checked", rows: 10, counts: {"new" => 7, "refused" => 3})
      expect(Records.db[:import_rows].where(verdict: "refused").order(:number).select_map(%i[number reason cells])).to eq(
        [9, 10, 11].map { |n| [n, "The address is in line #{n - 7} of this file already.", JSON.generate(["p#{n - 9}@x.example"])] }
      )
      expect(Records.db[:import_pieces].count).to eq(0)
    end

    it "begins again when somebody says again what the columns are for, also under a clerk who is at it" do
      import = check_of(text)
      clerk_at_it = checking(import)
      2.times { clerk_at_it.call }
      Work::StartImport.check(import.refresh, ["person.last_name"], {}, version: import.version, folder: @folder, moment: at)
      3.times { clerk_at_it.call }
      clerk.finish(now)
      expect(import.refresh).to have_attributes(state: "checked", rows: 10, counts: {"new" => 10})
    end

    it "is not begun once the file is taken in" do
      import = bring("Email\na@x.example\n")
      expect { Work::StartImport.check(import, ["person.email"], {"again" => true}, version: import.version, folder: @folder, moment: at) }
        .to raise_error(Invalid, "This file is taken in already.")
    end
  end
end
