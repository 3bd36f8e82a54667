# frozen_string_literal: true

require "csv"
require "tempfile"

module Bench
  module_function

  # A file of 100,000 rows from receiving to the last record, and the memory it takes.
  def imports(rows = Integer(ENV.fetch("ROWS", 100_000)))
    # In a process like the clerk's own, which is started so.
    exec(Processes::ClerkLoop::ENVIRONMENT, RbConfig.ruby, $PROGRAM_NAME, "imports") unless ENV.key?("RUBY_GC_MALLOC_LIMIT")

    with_database("nimble_letter_bench_imports", fresh: true) do
      FileUtils.rm_rf(@configuration.imports)
      account = Records::Account.create(email: "a@house.example", name: "Ana Lark", created_at: NOW)
      moment = Work::Moment.new(now: NOW, account: account)
      file = people_file(rows)
      import = nil
      receiving = Work::ReceiveImport.new(@configuration.imports, moment)
      received = Benchmark.realtime { import = File.open(file.path, "rb") { |io| receiving.receive(io, name: "people.csv") } }
      matching = receiving.columns(import).map { |column| column[:field] }
      Work::StartImport.check(import, matching, {}, version: import.version, folder: @configuration.imports, moment: moment)
      clerk = Work::Clerk.new(@configuration.imports, Records::Owner.new(@configuration))
      checked = Benchmark.realtime { by_clerks(clerk) }
      import = Records::Import[import.id]
      Work::StartImport.take(import, {}, version: import.version, moment: moment)
      taken = Benchmark.realtime { by_clerks(clerk) }
      puts format(
        "%d rows (%.1f MB): received in %.1f s, checked in %.1f s, taken in in %.1f s; %d records; the largest clerk %d MB",
        rows,
        file.size / 1e6,
        received,
        checked,
        taken,
        Records::Person.count,
        @largest
      )
    end
  end

  def by_clerks(clerk) = together(Processes::Supervisor::CLERKS) { clerk.round(NOW) || sleep(0.05) until Records::Import.working.empty? }

  # As the clerks are: processes of their own. Keeps the most memory that one of them took, in MB.
  def together(processes)
    Records.db.disconnect
    reader, writer = IO.pipe
    pids =
      Array.new(processes) do
        fork do
          yield
          writer.puts(memory)
        end
      end
    raise Error, "a clerk failed" unless pids.map { |pid| Process.wait2(pid).last.success? }.all?

    writer.close
    @largest = [@largest || 0, *reader.each_line.map(&:to_i)].max
  end

  def people_file(rows)
    file = Tempfile.new(["people", ".csv"])
    csv = CSV.new(file)
    csv << ["First name", "Surname", "E-mail", "Company", "Town", "Country", "Telephone", "Date of birth", "Tags", "Position"]
    rows.times do |n|
      csv << [
        Demo::Words::FIRST[n % 60],
        "Lark#{n}",
        "p#{n}@house#{n % 5000}.example",
        "House #{n % 5000}",
        Demo::Words::CITIES[n % 10],
        "United Kingdom",
        format("01632 %06d", n),
        (Date.new(1950, 1, 1) + n % 18_000).iso8601,
        "press, batch #{n % 7}",
        "Owner"
      ]
    end
    file.flush
    file
  end

  def memory = File.read("/proc/self/status")[/VmHWM:\s+(\d+)/, 1].to_i / 1024
end
