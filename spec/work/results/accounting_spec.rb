# frozen_string_literal: true

RSpec.describe "the accounting of a sequence" do
  let(:letters) { Array.new(3) { make_letter } }
  let(:people) { Array.new(6) { |n| make_person(last_name: "Wen#{n}") } }
  let!(:sequence) { start(make_sequence(people: people, letters: letters), at: now) }

  def figures_of(step) = Work::Accounting.new(sequence.refresh).of(step)

  # Reckoned another way: from each member and their letters, one by one.
  def by_hand(step)
    place = sequence.steps.map(&:id)
    sequence.members_dataset.all.map { |member|
      letter = Records::Delivery.where(member_id: member.id, step_id: step.id).exclude(state: "skipped").get(:state)
      next letter.sub(/due|claimed|on_wire/, "due") if letter

      (member.state == "active" && place.index(member.step_id) <= place.index(step.id)) ? "due" : "skipped"
    }.tally
  end

  def holds!
    results = Work::Results.new(sequence.refresh)
    sequence.steps.each do |step|
      figures = figures_of(step)
      expect(figures.except("planned", "here").values.sum).to eq(figures["planned"])
      expect(figures.except("planned", "here").select { |_, count| count.nonzero? }).to eq(by_hand(step))
      figures.except("here").each { |figure, count|
        expect([figure, results.people_of(figure, step_id: step.id).count]).to eq([figure, count])
      }
    end
  end

  # What can happen to one of them, or to all.
  acts = %i[send send send doubt_or_fail again leave reply out stop_and_go day settle].freeze

  def happen(act, random, at)
    member = sequence.members_dataset.all.sample(random: random)
    letter = Records::Delivery.where(member_id: member.id).order(Sequel.desc(:id)).first
    case act
    when :send then worker(transport: ToldTransport.new(*Array.new(9) { Post::Outcomes::Accepted.new("250 ok") })).dispatch_due(at)
    when :doubt_or_fail
      worker(transport: ToldTransport.new(Post::Outcomes::Doubtful.new("broke"), Post::Outcomes::Refused.said("550 policy", :end),
        Post::Outcomes::Refused.said("550 5.1.1 no such user", :recipient))).dispatch_due(at)
    when :settle then Records::Delivery.where(state: "in_doubt").all.each { |one|
      Work::SettleDelivery.call(one, %w[sent again].sample(random: random), moment: moment(at))
    }
    when :again, :leave then Records::SetAside.where(kind: "letter").all.each { |aside|
      Work::TakeUp.new(aside, moment(at)).public_send(act)
    }
    when :reply then Work::Happening.call("replied", at: at, person_id: member.person_id, delivery: letter)
    when :out then Work::Leaving.call(member, "taken_out", at: at)
    when :stop_and_go then %w[pause resume].each { |move|
      Work::RunSequence.call(sequence.refresh, move, moment: moment(at)) if sequence.refresh.state != "ended"
    }
    end
  end

  it "keeps count of what had gone out of a step that was taken out since, in all lists alike" do
    worker(transport: ToldTransport.new(*Array.new(4) { Post::Outcomes::Accepted.new("250 ok") })).dispatch_due(now + 86_400)
    gone, sent = sequence.steps.first, Records::Delivery.where(state: "sent").count
    maren = moment(now + 86_400, account: make_account)
    change = Work::ChangePlan.new(sequence.refresh, maren)
    change.propose({steps: PlanInput.of(sequence).drop(1)}, version: 0)
    Work::ChangePlan.new(sequence.refresh, maren).effect(version: 1)
    3.times { Work::ApplyPlan.round(maren) }
    results = Work::Results.new(sequence.refresh)
    told = results.call
    row = told[:steps].last
    figures = ->(some) { some.to_h { |one| [one[:name], one[:count]] } }
    expect([sent.positive?, row[:position], figures.call(row[:figures]).values_at("planned", "sent")]).to eq([true, nil, [sent, sent]])
    expect(figures.call(told[:total])["sent"]).to eq(sent)
    listed = Web::SequenceRows.write([sequence.refresh]).first
    expect(listed.values_at(:sent, :planned)).to eq(figures.call(told[:total]).values_at("sent", "planned"))
    Work::Accounting::FIGURES.each do |figure|
      counts = [gone.id, nil].map { |id| results.people_of(figure, step_id: id).count }
      expect(counts.first).to eq(figures.call(row[:figures])[figure] || 0), figure
      expect(counts.last).to be >= counts.first
    end
  end

  it "adds up for each step at every moment, whatever happens, and each figure opens its people" do
    PropCheck.forall(PropCheck::Generators.choose(0..1_000_000)).with_config(n_runs: 12) do |seed|
      Records.db.transaction(savepoint: true, rollback: :always) do
        random, at = Random.new(seed), now + 3600
        holds!
        14.times do
          at += random.rand(1..40) * 3600
          Records::Mailbox.dataset.update(Work::RestMailbox::AWAKE)
          happen(acts.sample(random: random), random, at)
          holds!
        end
      end
    end
  end

  it "has nothing written down but the next letter of each" do
    expect(Records::Delivery.where(sequence_id: sequence.id).select_map(%i[step_id state]).uniq).to eq([[sequence.steps.first.id, "due"]])
    expect(sequence.steps.map { |step| figures_of(step).values_at("planned", "due", "here") }).to eq([[6, 6, 6], [6, 6, 0], [6, 6, 0]])
  end

  it "sees two who finish at once, each of whom saw the other still on the way" do
    sequence.members_dataset.update(state: "finished")
    Records::Delivery.where(sequence_id: sequence.id).update(state: "sent")
    expect(sequence.refresh.state).to eq("running")
    worker(transport: ToldTransport.new).dispatch_due(now)
    expect(sequence.refresh.state).to eq("ended")
  end
end
