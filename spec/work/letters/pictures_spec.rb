# frozen_string_literal: true

require "stringio"
require "vips"

RSpec.describe "taking in a picture" do
  def take(bytes, name: "room.jpg") = Work::TakePicture.new(moment).call(StringIO.new(bytes), name: name)

  def picture(width, height) = (Vips::Image.black(width, height, bands: 3) + [120, 90, 60]).cast(:uchar).copy(interpretation: :srgb)

  it "makes it no wider than letters need and writes it anew, without what a camera put in" do
    placed =
      picture(2400, 800)
        .mutate do |image|
          image.set_type!(GObject::GSTR_TYPE, "exif-ifd0-Copyright", "Felt Yard (Felt Yard, ASCII, 10 components, 10 bytes)")
        end
        .jpegsave_buffer
    taken = take(placed)

    expect(placed).to include("Felt Yard")
    expect([taken.width, taken.height, taken.mime, taken.name]).to eq([1200, 400, "image/jpeg", "room"])
    expect(taken.refresh.data).not_to include("Felt Yard")
    expect(Vips::Image.new_from_buffer(taken.data, "").get_fields.grep(/exif|xmp|iptc/i)).to eq([])
  end

  it "keeps what is clear as PNG, and knows a picture it has" do
    clear = picture(40, 40).bandjoin(128).pngsave_buffer

    expect(take(clear).mime).to eq("image/png")
    expect(take(clear).id).to eq(take(clear, name: "again.png").id)
  end

  it "refuses what is no picture, whatever it is called" do
    [
      "",
      "GIF",
      "<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>",
      "%PDF-1.4",
      "\xFF\xD8\xFF garbage".b,
      "\x89PNG\r\n\x1a\n".b + ("x" * 100)
    ].each { |bytes| expect { take(bytes) }.to raise_error(Invalid) { |error| expect(error.code).to eq(:not_a_picture) }, bytes.inspect }
  end

  it "refuses a bomb before it is unpacked, and a file that is too large" do
    bomb = picture(12_000, 9_000).pngsave_buffer(compression: 9)

    expect(bomb.bytesize).to be < 2_000_000
    expect { take(bomb) }.to raise_error(Invalid) { |error| expect(error.code).to eq(:too_large) }
    expect { take("\xFF\xD8\xFF".b + "x" * Work::TakePicture::MOST_BYTES) }.to raise_error(Invalid) { |error|
      expect(error.code).to eq(:too_large)
    }
  end

  it "stays while a letter uses it" do
    taken = take(picture(10, 10).pngsave_buffer)
    letter =
      Work::WriteLetter.new(moment).make(
        name: "Shown",
        body: doc({"type" => "picture", "attrs" => {"picture_id" => taken.id, "alt" => [], "href" => [], "width" => 100}})
      )

    expect(Work::WhereUsed.new.picture(taken)).to eq([{kind: "letter", id: letter.id, name: "Shown"}])
  end
end

RSpec.describe "files that go with a letter" do
  let(:letter) { make_letter }

  def attach(name, bytes = "words") = Work::TakeAttachment.new(letter, moment).call(StringIO.new(bytes), name: name)

  it "are kept with their type, under a name without a path" do
    expect(attach("../../etc/Über uns.pdf")).to have_attributes(name: ".._.._etc_Über uns.pdf", mime: "application/pdf", bytes: 5)
  end

  it "are refused when servers would turn the letter away, or there is too much of them" do
    expect { attach("invoice.pdf.exe") }.to raise_error(Invalid) { |error| expect(error.code).to eq(:refused_file) }
    expect { attach("empty.pdf", "") }.to raise_error(Invalid) { |error| expect(error.code).to eq(:empty_file) }
    expect { attach("large.pdf", "x" * (Work::TakeAttachment::MOST_BYTES + 1)) }.to raise_error(Invalid) { |error|
      expect(error.code).to eq(:too_large)
    }
    5.times { |n| attach("#{n}.txt") }
    expect { attach("6.txt") }.to raise_error(Invalid) { |error| expect(error.code).to eq(:too_many) }
  end
end
