# frozen_string_literal: true

RSpec.describe "a file that is taken back" do
  include_context "with files that are brought in"

  it "is taken back, but for what somebody changed since" do
    known = make_person(email: "ana@ladle.example", city: "York", job_title: "Owner")
    import = bring("Email,Town,Position,Tags\nana@ladle.example,Hull,Chef,press\nbo@ladle.example,Leeds,,\ncy@ladle.example,Leeds,,\n")
    change_person(person("cy@ladle.example"), {"person.city" => "Ripon"}, at)
    change_person(known, {"person.city" => "Whitby"}, at)
    set = Work::TakeBack.start(import.change_set, moment: at)

    expect(set).to have_attributes(state: "undone", kept: 2)
    expect(known.refresh.values).to include(city: "Whitby", job_title: "Owner")
    expect(known.tags).to eq([])
    expect(Records::Person.kept.select_map(:email)).to contain_exactly("ana@ladle.example", "cy@ladle.example")
    expect { Work::TakeBack.start(set, moment: at) }.to raise_error(Invalid)
  end

  it "forgets a file and its rows after thirty days, and can still take back what came of it" do
    import = bring("Email,Town\na@x.example,York\nnonsense,Hull\n")
    waiting = receive("Email\nb@x.example\n")
    expect(Work::ForgetFiles.call(@folder, moment(now + 29 * 86_400))).to eq(0)
    clerk.finish(now + 31 * 86_400)

    expect([Dir.children(@folder), Records.db[:import_rows].count]).to eq([[], 0])
    expect(waiting.refresh).to have_attributes(state: "failed", problem: /has been removed/)
    expect(Web::ImportJson.write(waiting, receiving, at)[:columns]).to eq([])
    expect(Work::TakeBack.start(import.change_set, moment: at)).to have_attributes(state: "undone", kept: 0)
  end

  describe "with companies, tags and lists that were not there" do
    let(:text) do
      "Email,Company,Tags\nana@ladle.example,New Ladle,fair\nbo@ladle.example,Bo & Sons,fair\ncy@ladle.example,New Ladle,felt\n"
    end

    def there = [Records::Company, Records::Tag, Records::List].map { |model| model.order(:id).select_map(:name) }

    it "leaves none of them when it is taken back" do
      make_company("The Copper Ladle")
      Records::Tag.named("press")
      make_person(email: "ana@ladle.example")
      before = [there, Records.db[:people_tags].count, Records::Person.kept.select_map(:company_id)]
      import = bring(text, {lists: ["From the fair"], tags: %w[press spring]})
      expect(there.map(&:size)).to eq([3, 4, 1])
      set = Work::TakeBack.start(import.change_set, moment: at)

      expect([there, Records.db[:people_tags].where(person_id: Records::Person.kept.select(:id)).count,
        Records::Person.kept.select_map(:company_id)]).to eq(before)
      expect(Web::ChangeJson.rows([set.refresh], at).first).to include(kept: 0, stays_made: 0)
    end

    it "leaves those that somebody uses, and says how many" do
      import = bring(text, {lists: ["From the fair"]})
      make_person(company_id: Records::Company.first(name: "New Ladle").id)
      another = Records::Person.where(id: make_person.id)
      Work::ChangeMany.start(Work::Act.new({"kind" => "tag", "names" => ["felt"]}, at), another, moment: at)
      Records::SavedFilter.create(
        name: "Fair",
        condition: {"field" => "person.tags", "is" => "one_of", "value" => ["fair"]},
        created_at: now,
        updated_at: now
      )
      set = Work::TakeBack.start(import.change_set, moment: at)

      expect(there).to eq([["New Ladle"], %w[fair felt], []])
      expect(Web::ChangeJson.rows([set.refresh], at).first).to include(stays_made: 3)
    end
  end
end
