# frozen_string_literal: true

# What is taken back after the tag or list it was about is gone.
RSpec.describe "taking back what speaks of something that is gone" do
  let(:maren) { make_account }
  let(:person) { make_person }
  let(:press) { Records::Tag.named("press") }

  def act(json)
    by = moment(account: maren)
    Work::ChangeMany.start(Work::Act.new(json, by), Records::Person.where(id: person.id), moment: by)
  end

  def take_back(set) = Work::TakeBack.start(Records::ChangeSet[set.id], moment: moment(account: maren))

  def tags = person.refresh.tags.map(&:name)

  it "puts a tag back that is another by now" do
    person.add_tag(press)
    Records::Tag.named("papers")
    off = act("kind" => "untag", "names" => ["press"])
    Work::RenameTag.call(press.refresh, "papers", merge: true)
    expect(take_back(off).state).to eq("undone")
    expect(tags).to eq(["papers"])
  end

  it "leaves out a list that is gone" do
    list = Work::KeepList.make("Guests", Records::Person.where(id: person.id), moment: moment)
    off = act("kind" => "unlist", "list_id" => list.id)
    list.delete
    expect(take_back(off).state).to eq("undone")
    expect(Records.db[:list_people].count).to eq(0)
  end

  it "leaves whoever wore the other all along as they are" do
    person.add_tag(Records::Tag.named("papers"))
    on = act("kind" => "tag", "names" => ["press"])
    Work::RenameTag.call(press.refresh, "papers", merge: true)
    expect(take_back(on)).to have_attributes(state: "undone", kept: 1)
    expect(tags).to eq(["papers"])
  end

  it "takes a tag off that is another by now" do
    Records::Tag.named("papers")
    on = act("kind" => "tag", "names" => ["press"])
    Work::RenameTag.call(press.refresh, "papers", merge: true)
    expect(take_back(on).state).to eq("undone")
    expect(tags).to eq([])
  end
end
