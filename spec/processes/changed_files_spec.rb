# frozen_string_literal: true

require "tmpdir"

RSpec.describe Processes::ChangedFiles do
  it "sees each file that is changed, comes or goes, once" do
    Dir.mktmpdir do |root|
      inner = File.join(root, "lib", "core")
      FileUtils.mkdir_p(inner)
      File.write(kept = File.join(inner, "one.rb"), "1")
      changes = described_class.new(%w[lib], root: root)

      changed = ->(&what) { what.call.then { [changes.any?, changes.any?] } }
      expect(changed.call {}).to eq([false, false])
      expect(changed.call { File.utime(Time.at(5), Time.at(5), kept) }).to eq([true, false])
      expect(changed.call { File.write(File.join(inner, "two.rb"), "2") }).to eq([true, false])
      expect(changed.call { File.delete(kept) }).to eq([true, false])
    end
  end
end
