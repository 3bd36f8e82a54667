# frozen_string_literal: true

require "fileutils"
require "ipaddr"
require "securerandom"
require "uri"

module NimbleLetter
  # Where things are and on which ports, read once from the environment. Two copies with different values run side by side.
  class Configuration
    attr_reader :var, :look_seconds, :port, :db_port, :smtp_port, :lookup_port, :database, :lease_seconds, :parent, :proxies, :idle_seconds

    # @param env [#fetch]
    # @raise [Invalid] naming the variable that is not a port
    def initialize(env = ENV)
      @var = File.expand_path(env.fetch("NIMBLE_VAR", "var"), ROOT)
      @port = port_from(env, "PORT", 4780)
      @db_port = port_from(env, "DB_PORT", 4781)
      @smtp_port = port_from(env, "SMTP_PORT", 4782)
      @lookup_port = port_from(env, "LOOKUP_PORT", 4783)
      @lookup_url = env["NIMBLE_LOOKUP_URL"]
      @database = env.fetch("NIMBLE_DATABASE", "nimble_letter")
      @lease_seconds = Integer(env.fetch("NIMBLE_LEASE_SECONDS", "120"))
      @look_seconds = Float(env.fetch("NIMBLE_LOOK_SECONDS", "5"))
      @public_url = env["NIMBLE_PUBLIC_URL"]
      @proxies = proxies_from(env)
      @idle_seconds = minutes_from(env, "NIMBLE_IDLE_MINUTES", 120) * 60
      @parent = env["NIMBLE_PARENT"]&.to_i
    end

    # What tracking and unsubscribe links begin with.
    def public_url = @public_url || "http://127.0.0.1:#{port}"

    # Whether people reach it over TLS, which a proxy in front of it ends.
    def tls? = public_url.start_with?("https://")

    # @return [Array<String>] the names it answers under, beside those of this machine itself
    def hosts = [URI.parse(public_url).host].compact

    # Where outside services are asked; in practice mode, the ones that ship with it.
    def lookup_url = @lookup_url || "http://127.0.0.1:#{lookup_port}"

    # Where it stands which parts have ended lately.
    def parts_state = File.join(var, "parts.json")

    def socket = File.join(var, "db.sock")

    # Where parts that sleep are woken, see Bell.
    def bells = File.join(var, "bells-#{database}")

    # Each database has its own, so that several can share one folder.
    def maildir = File.join(var, "maildir-#{database}")

    # Where files that are brought in are kept, each database with its own.
    def imports = File.join(var, "imports-#{database}")

    # Signs sessions, links and the way out. Made once and kept, so that links in sent letters go on working.
    def secret = @secret ||= kept("secret") { SecureRandom.hex(64) }

    def db_password = @db_password ||= kept("db_password") { SecureRandom.hex(24) }

    # Of the database's user that may change the shape of the records; the page never uses it.
    def db_owner_password = @db_owner_password ||= kept("db_owner_password") { SecureRandom.hex(24) }

    # @return [Hash] for Sequel.connect
    def database_options(user: "nimble", password: db_password)
      {adapter: "trilogy", host: "127.0.0.1", port: db_port, user: user, password: password, database: database,
       encoding: "utf8mb4", max_connections: 12, pool_timeout: 10, connect_timeout: 5}
    end

    def owner_options = database_options(user: "nimble_owner", password: db_owner_password)

    private

    def port_from(env, name, default)
      value = Integer(env.fetch(name, default), exception: false)
      return value if value && (1..65_535).cover?(value)

      raise Invalid.new("#{name} is #{env[name].inspect}; it must be a port from 1 to 65535.", code: :configuration)
    end

    def minutes_from(env, name, default)
      value = Integer(env.fetch(name, default), exception: false)
      return value if value&.positive?

      raise Invalid.new("#{name} is #{env[name].inspect}; it must be a number of minutes.", code: :configuration)
    end

    def proxies_from(env)
      env.fetch("NIMBLE_PROXY", "").split(",").map(&:strip).reject(&:empty?).each { |network| IPAddr.new(network) }
    rescue IPAddr::Error
      raise Invalid.new("NIMBLE_PROXY is #{env["NIMBLE_PROXY"].inspect}; it must be addresses with commas between.", code: :configuration)
    end

    def kept(name)
      path = File.join(var, name)
      unless File.exist?(path)
        FileUtils.mkdir_p(var, mode: 0o700)
        # Written whole or not at all: two processes may come here at the same time.
        File.write("#{path}.#{Process.pid}", yield, perm: 0o600)
        begin
          File.link("#{path}.#{Process.pid}", path)
        rescue Errno::EEXIST
          # The other process was first; its value is the one to use.
        end
        File.delete("#{path}.#{Process.pid}")
      end
      File.read(path)
    end
  end
end
