# frozen_string_literal: true

RSpec.describe Work::Conversion do
  let(:person) { make_person }
  let(:sequence) { start(make_sequence(people: [person])) }
  let(:delivery) { Records::Delivery.first(sequence_id: sequence.id) }

  def reply(**values) =
    Records::Incoming.create(
      {file_key: "f#{number}", kind: "reply", text: "Yes", raw: Sequel.blob(""), received_at: now, updated_at: now,
       person_id: person.id, delivery_id: delivery.id, **values}
    )

  def convert(incoming, pence = 24_000) = described_class.call(incoming, label: "visit booked", value_pence: pence, moment: moment)

  it "counts for the letter that was answered, once" do
    Records::Delivery.where(id: delivery.id).update(state: "sent", sent_at: now)
    incoming = reply
    convert(incoming)

    expect(described_class.of(incoming).first).to have_attributes(sequence_id: sequence.id, step_id: delivery.step_id)
    expect(incoming.refresh).to have_attributes(sort: "done", version: 2)
    expect { convert(incoming) }.to raise_error(Invalid, /already/)
    expect(Work::Results.new(sequence).call[:value_pence]).to eq(24_000)
  end

  it "takes no reply of nobody, and no amount below nothing" do
    expect { convert(reply(person_id: nil, delivery_id: nil)) }.to raise_error(Invalid, /no person/)
    expect { convert(reply, -1) }.to raise_error(Invalid, /from 0 up/)
  end
end
