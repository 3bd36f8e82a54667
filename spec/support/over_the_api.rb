# frozen_string_literal: true

require "json"
require "net/http"

# Makes over the API, as Maren and by the same rules, what a spec of the page needs and is not about.
module OverTheApi
  # One who is signed in, as a browser would be.
  class SignedIn
    # Name and value; another after each answer that renews it.
    attr_reader :cookie

    def initialize(url, email)
      @http = URI(url).then { |uri| Net::HTTP.new(uri.host, uri.port) }
      @email = email
    end

    # Signs in, once more if the session has ended.
    def ready
      session = ask(:get, "/api/session")
      return self if session["account"]

      @csrf = session["csrf"]
      ask(:post, "/auth/login", {email: @email, password: Demo::Firm::PASSWORD})
      @csrf = ask(:get, "/api/session").fetch("csrf")
      self
    end

    # @return [Hash] the answer
    def ask(verb, path, body = nil)
      request = Net::HTTP.const_get(verb.to_s.capitalize).new(path, headers)
      request.body = JSON.generate(body) if body
      answer = @http.request(request)
      raise "#{verb} #{path}: #{answer.code} #{answer.body}" unless answer.is_a?(Net::HTTPSuccess)

      keep_cookie(answer)
      JSON.parse(answer.body)
    end

    private

    def headers
      told = @cookie ? {"Cookie" => "#{@cookie[:name]}=#{@cookie[:value]}"} : {}
      {"Content-Type" => "application/json", "Accept" => "application/json", "X-CSRF-Token" => @csrf.to_s, **told}
    end

    def keep_cookie(answer)
      answer.get_fields("Set-Cookie")&.each do |line|
        name, value = line.split(";").first.split("=", 2)
        @cookie = {name: name, value: value}
      end
    end
  end

  # @param name [String] what their address begins with
  def self.as(name)
    @signed_in ||= Hash.new { |all, who| all[who] = SignedIn.new(Browser.configuration.public_url, "#{who}@ternandfallow.example") }
    @signed_in[name].ready
  end

  def ask(...) = OverTheApi.as("maren").ask(...)

  # Signed in at once; how people do it is tried in safety_spec.
  def signed_in_as(name)
    cookie = OverTheApi.as(name).cookie
    # Told to the browser and not to a page of the site, which would have to be loaded for it.
    page.driver.browser.execute_cdp("Network.setCookie", **cookie, url: Browser.configuration.public_url, httpOnly: true)
  end

  def sequence_named(name) = ask(:get, "/api/sequences")["sequences"].find { |one| one["name"] == name }.fetch("id")

  def letter_named(name) = ask(:get, "/api/letters")["letters"].find { |letter| letter["name"] == name }.fetch("id")

  def make_letter(**said) = ask(:post, "/api/letters", said).fetch("id")

  # @param letters [Array<String>] names
  # @param timing [Hash] of every letter but the first
  # @param more [Hash] of the plan
  # @return [Integer] its number
  def make_sequence(name, letters: [], timing: {}, steps: nil, **more)
    made = ask(:post, "/api/sequences", {name: name})
    steps ||= letters.each_with_index.map { |letter, i| {letter_id: letter_named(letter), **(i.zero? ? {} : timing)} }
    ask(:patch, "/api/sequences/#{made["id"]}", {version: made["version"], steps: steps, **more})
    made["id"]
  end

  # Who gets the tag joins.
  def joins_by(sequence, tag)
    rule = {kind: "tag", settings: {tag: tag}, live: true, again: "never", gap_days: 0, now_too: false}
    ask(:post, "/api/sequences/#{sequence}/joining", rule)
  end

  # Starts it with the numbers read back.
  def start(sequence)
    ready = ask(:get, "/api/sequences/#{sequence}/ready")
    version = ask(:get, "/api/sequences/#{sequence}")["version"]
    ask(:post, "/api/sequences/#{sequence}/start", {"version" => version, **ready.slice("letters", "gaps", "joining", "seen").compact})
  end

  # As a colleague does under People.
  def tag(ids, name, kind: "tag") = ask(:post, "/api/changes", {act: {kind: kind, names: [name]}, people: {ids: ids}})
end

RSpec.configure { |config| config.include OverTheApi, type: :feature }
