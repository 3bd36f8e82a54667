# frozen_string_literal: true

RSpec.describe "colleagues" do
  let(:maren) { make_account(name: "Maren Holt", role: "admin") }
  let(:ivo) { make_account(name: "Ivo Lund", role: "admin") }

  def as(account) = moment(account: account).tap { |at| allow(at).to receive(:fresh!) }

  it "keep what is theirs when their sign-in is closed, and somebody is always left who can open it" do
    make_person(owner_id: ivo.id)
    make_mailbox(account_id: ivo.id)
    Work::ChangeColleague.call(ivo, moment: as(maren), closed: true)

    expect(Work::Theirs.of([ivo.id, maren.id])).to eq(
      ivo.id => {people: 1, tasks: 0, mailboxes: 1},
      maren.id => {people: 0, tasks: 0, mailboxes: 0}
    )
    {maren => /your own/, ivo.refresh => /Nobody would be left/}.each do |by, words|
      expect { Work::ChangeColleague.call(maren, moment: as(by), role: "colleague") }.to raise_error(Invalid, words)
    end
  end

  it "end where they are signed in, and nobody else's" do
    mine, other = [maren, ivo].map do |account|
      Records::Session[Records.db[:account_active_session_keys].insert(account_id: account.id, session_id: account.name)]
    end
    expect { Work::EndSession.call(other, moment: as(maren)) }.to raise_error(Forbidden)
    Work::EndSession.call(mine, moment: as(maren))
    expect(Records::Session.select_map(:account_id)).to eq([ivo.id])
  end
end
