# frozen_string_literal: true

require "json"
require "digest"
require "rack"

module NimbleLetter
  module Practice
    # The practice weather service: a small HTTP service that makes up the same weather for the same city and day each
    # time. It does not know a city called Nowhere, and about Slowmere it thinks longer than anybody waits.
    class Weather
      SKIES = ["bright sun", "thin cloud", "low cloud", "light rain", "steady rain", "a sea mist", "showers", "a fresh wind"].freeze
      RAINY = ["light rain", "steady rain", "showers"].freeze
      # Average temperature by month, in degrees Celsius, of a temperate island.
      MONTHS = [4, 4, 6, 8, 11, 14, 16, 16, 14, 10, 7, 5].freeze
      UNKNOWN, SLOW = "nowhere", "slowmere"
      SLOW_SECONDS = 6

      # @param wait [#call] how it thinks; specs hand in another
      def initialize(wait: ->(seconds) { sleep(seconds) })
        @wait = wait
      end

      def call(env)
        request = Rack::Request.new(env)
        city = request.params["city"].to_s.strip.downcase
        return answer(404, {error: "unknown city"}) if request.path_info != "/weather" || city.empty? || city == UNKNOWN

        @wait.call(SLOW_SECONDS) if city == SLOW
        answer(200, weather(city, Date.iso8601(request.params["day"].to_s)))
      rescue Date::Error
        answer(400, {error: "day is written 2026-05-12"})
      end

      private

      def weather(city, day)
        roll = Digest::SHA256.digest("#{city}:#{day}").bytes
        sky = SKIES[roll[0] % SKIES.size]
        {words: sky, celsius: MONTHS[day.month - 1] + roll[1] % 7 - 3, rain: RAINY.include?(sky)}
      end

      def answer(status, json) = [status, {"content-type" => "application/json"}, [JSON.generate(json)]]
    end
  end
end
