# frozen_string_literal: true

require "rbconfig"

# The practice world around an example marked `:processes`: real processes on real ports.
module World
  def configuration = TestDatabase.configuration

  def clock = @clock ||= Practice::Clock.new

  # @param parts [Array<String>] "post-office", "web", "worker"
  def with_world(*parts, at: Builders::NOW)
    clock.set(at)
    children = Processes::Children.new(configuration)
    ports = {"post-office" => configuration.smtp_port, "web" => configuration.port}
    parts.each { |part| children.start(part, port: ports[part]) }
    yield children
  ensure
    children&.stop
  end

  # What has a process work on the same records.
  def world_settings
    {
      "NIMBLE_VAR" => configuration.var,
      "PORT" => configuration.port.to_s,
      "DB_PORT" => configuration.db_port.to_s,
      "SMTP_PORT" => configuration.smtp_port.to_s,
      "NIMBLE_DATABASE" => configuration.database
    }
  end

  # Runs spec/scripts/worker.rb to its end.
  # @return [Process::Status]
  def run_worker(**env)
    pid =
      Process.spawn(
        world_settings.merge(env.transform_keys(&:to_s).transform_values(&:to_s)),
        RbConfig.ruby,
        File.join(ROOT, "spec/scripts/worker.rb")
      )
    Process.wait2(pid).last
  end

  # Waits generously, and no longer than it takes. What an example wrote by itself rang nobody.
  def wait_until(what, seconds: 240)
    Bell.new(configuration.bells).ring
    deadline = Process.clock_gettime(Process::CLOCK_MONOTONIC) + seconds
    until yield
      raise "waited #{seconds} s in vain until #{what}" if Process.clock_gettime(Process::CLOCK_MONOTONIC) > deadline

      IO.select(nil, nil, nil, 0.05)
    end
  end

  # Time passes for the worker that was lost.
  def run_out_leases = Records.db[:deliveries].exclude(leased_until: nil).update(leased_until: Time.utc(2000, 1, 1))

  # What the post office holds, by recipient.
  def received = Records.db[:practice_letters].group_and_count(:recipient).as_hash(:recipient, :count)

  # @param transport [#deliver, nil] one for everything
  def worker(transport: nil, **rest)
    Post::Worker.build(configuration, **rest, **(transport ? {transport: -> { transport }} : {}))
  end

  def states(sequence) = Records::Delivery.where(sequence_id: sequence.id).group_and_count(:state).as_hash(:state, :count)
end

RSpec.configure { |config| config.include World, :database }
