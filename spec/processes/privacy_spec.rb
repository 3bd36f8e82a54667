# frozen_string_literal: true

require "tmpdir"

# What lies in the folder of a firm, and what the database's users may do.
RSpec.describe "a firm's folder and database" do
  let(:secrets) { [configuration.db_password, configuration.db_owner_password, configuration.secret] }

  def command_lines = Dir["/proc/[0-9]*/cmdline"].filter_map { |path| File.read(path) rescue nil } # rubocop:disable Style/RescueModifier

  def open_as(options) = Sequel.connect(**options, max_connections: 1, keep_reference: false)

  # @return [Boolean] whether the database lets this user do so
  def may?(options, statement)
    db = open_as(options)
    db.run(statement)
    true
  rescue Sequel::DatabaseError => error
    expect(error.message).to match(/denied|disabled|not allowed|forbidden/i), error.message
    false
  ensure
    db&.disconnect
  end

  it "is for one user alone, whatever had been left open" do
    Dir.mktmpdir do |var|
      FileUtils.mkdir_p(File.join(var, "imports/inner"), mode: 0o755)
      File.write(File.join(var, "imports/inner/people.csv"), "x")
      File.write(File.join(var, "tool"), "x", perm: 0o755)
      File.symlink("/etc/hostname", File.join(var, "elsewhere"))
      before = File.stat("/etc/hostname").mode
      Processes::Privacy.tighten(var)

      modes = Dir.glob("#{var}/**/*").to_h { |path| [path.delete_prefix("#{var}/"), File.lstat(path)] }
      expect(modes.reject { |_, stat| stat.symlink? }.transform_values { |stat| stat.mode & 0o777 }).to eq(
        "imports" => 0o700,
        "imports/inner" => 0o700,
        "imports/inner/people.csv" => 0o600,
        "tool" => 0o700
      )
      expect(File.stat("/etc/hostname").mode).to eq(before)
    end
  end

  it "is made so by every part that runs" do
    Dir.mktmpdir do |folder|
      var = File.join(folder, "var")
      script = "NimbleLetter::Processes::Privacy.begin; c = NimbleLetter::Configuration.new({'NIMBLE_VAR' => '#{var}'}); c.secret; " \
        "NimbleLetter::Post::Maildir.new(c.maildir); NimbleLetter::Work::PartsState.new(c.parts_state).write(['web'])"
      expect(system(RbConfig.ruby, "-rbundler/setup", "-e", "require './lib/nimble_letter'; #{script}", chdir: ROOT)).to be(true)
      open = Dir.glob("#{var}/**/*", File::FNM_DOTMATCH).select { |path| (File.stat(path).mode & 0o077).positive? }

      expect([open, Dir.children(var).sort]).to eq([[], %w[maildir-nimble_letter parts.json secret]])
    end
  end

  it "shows its passwords on no command line" do
    asked = []
    allow(IO).to receive(:popen).and_wrap_original do |original, *given, **rest, &block|
      asked << given.flatten.join(" ")
      original.call(*given, **rest, &block)
    end
    Processes::DatabaseServer.new(configuration).start

    expect(asked.size).to eq(1)
    secrets.each { |secret| expect((asked + command_lines).join).not_to include(secret) }
  end

  it "lets the page read and write rows, and do nothing else" do
    running = configuration.database_options
    log = Records::SafetyLog.database(configuration.database)
    [
      "DROP TABLE people",
      "ALTER TABLE people ADD COLUMN x_nothing INT",
      "CREATE TABLE nothing (id INT)",
      "CREATE DATABASE nimble_letter_nothing",
      "UPDATE #{log}.`lines` SET about = 'nothing'",
      "DELETE FROM #{log}.`lines`",
      "TRUNCATE TABLE #{log}.`lines`",
      "DROP TABLE #{log}.`lines`",
      "SELECT * FROM mysql.global_priv",
      "GRANT ALL ON *.* TO nimble@'127.0.0.1'",
      "SELECT 'x' INTO OUTFILE '#{configuration.var}/out'",
      "LOAD DATA INFILE '/etc/passwd' INTO TABLE tags",
      "LOAD DATA LOCAL INFILE '/etc/passwd' INTO TABLE tags",
      "CREATE TRIGGER nothing BEFORE UPDATE ON tags FOR EACH ROW SET NEW.id = 1"
    ].each { |statement| expect(may?(running, statement)).to be(false), statement }
    expect(may?(running, "SELECT COUNT(*) FROM people")).to be(true)
    expect(may?(running, "SELECT COUNT(*) FROM #{log}.`lines`")).to be(true)
  end

  it "lets its owner change the shape of the records, and nothing outside of them" do
    owner = configuration.owner_options
    expect(may?(owner, "ALTER TABLE tags COMMENT = ''")).to be(true)
    expect(may?(owner, "SELECT * FROM mysql.global_priv")).to be(false)
    expect(may?(owner, "CREATE DATABASE somebody_elses")).to be(false)
  end
end
