# frozen_string_literal: true

require "cgi"
require "yaml"

# Requests that keep to the contract as far as somebody would who only skimmed it: right in form, and odd, wrong or of something else in
# what they say.
class OddRequests
  WORDS = ["", " ", "x", "Ana", "ünï ✨", "'; DROP TABLE people;--", "<b>x</b>", "a" * 3000, "{{first name}}", "{{", "-1", "\u0000",
    "\u202Eabc", "2026-02-30", "9999-12-31", "0001-01-01", "Europe/London", "%", "\\", "person.city", "opened"].freeze
  NUMBERS = [0, 1, -1, 2, 5, 540, 1440, 100_000, 2**31, 2**53, -2**40].freeze
  DAYS = %w[2026-05-12 2024-02-29 1900-01-01 9999-12-31 0001-01-01 2026-02-30].freeze
  TIMES = %w[2026-05-12T08:00:00Z 1970-01-01T00:00:00Z 9999-12-31T23:59:59Z 2026-05-12T08:00:00+14:00].freeze
  CONDITIONS = [{"field" => "person.city", "is" => "one_of", "value" => ["York"]}, {"all" => []}, {"not" => {"any" => []}}, {},
    {"activity" => "opened", "times" => -1}, {"membership" => "was_in", "sequence_id" => 1}, {"field" => "nope", "is" => "x"},
    {"all" => [{"any" => [{"not" => {}}]}]}, {"field" => "deal.value", "is" => "more_than", "value" => "x"}].freeze
  VERBS = %w[get post put patch delete].freeze
  DEEPEST = 5

  # @param random [Random]
  # @param document [Hash] the contract
  # @param ids [Hash{String=>Array<Integer>}] of what there is, by the place it stands under ("people"); all: of everything
  def initialize(random, document, ids)
    @random, @document, @ids = random, document, ids
    @calls = document["paths"].flat_map do |path, calls|
      calls.slice(*VERBS).map do |verb, call|
        [verb, path, calls.fetch("parameters", []) + call.fetch("parameters", []), call["requestBody"]]
      end
    end
  end

  # @param but [Regexp] paths that are left alone
  # @return [Array(String, String, Object)] verb, path, and what is sent with it
  def one(but:)
    verb, path, parameters, body = pick(@calls.reject { |call| but.match?(call[1]) })
    parameters = parameters.map { |one| resolved(one) }
    schema = body && resolved(body).dig("content", "application/json", "schema")
    [verb, filled(path, parameters) + query(parameters), schema && value(schema)]
  end

  private

  def pick(some) = some[@random.rand(some.size)]

  def rarely(often = 3) = @random.rand(often).zero?

  def resolved(schema)
    schema = @document.dig(*schema["$ref"].delete_prefix("#/").split("/")) while schema["$ref"]
    schema
  end

  def filled(path, parameters)
    path.gsub(/\{(\w+)\}/) do
      name = Regexp.last_match(1)
      text = parameters.find { |one| one["name"] == name }&.dig("schema", "type") == "string"
      some = text ? pick(WORDS)[0, 50] : pick(@ids.fetch(path[%r{/api/([\w-]+)}, 1], @ids[:all])).to_s
      some.empty? ? "x" : CGI.escape(some)
    end
  end

  def query(parameters)
    asked = parameters.select { |one| one["in"] == "query" && (one["required"] || rarely(2)) }
    return "" if asked.empty?

    "?" + asked.map { |one| "#{one["name"]}=#{CGI.escape(text(value(one["schema"], one["name"])))}" }.join("&")
  end

  def text(value) = value.is_a?(String) ? value[0, 1500] : JSON.generate(value)

  # @param name [String] of the part it is for
  def value(schema, name = "", depth = 0)
    schema = resolved(schema)
    some_of = schema["oneOf"] || schema["anyOf"]
    return value(pick(some_of), name, depth) if some_of
    return schema["allOf"].map { |one| value(one, name, depth) }.grep(Hash).inject({}, :merge) if schema["allOf"]
    return if schema["nullable"] && rarely(6)
    return pick([nil, 1, "x", [], {}, true, 1.5]) if rarely(60)

    typed(schema, name, depth)
  end

  def typed(schema, name, depth)
    case schema["type"]
    when "array" then several(schema, name, depth)
    when "string" then word(schema)
    when "integer" then number(schema, name)
    when "number" then pick([0, 0.5, 1, -1, 1e308])
    when "boolean" then rarely(2)
    else schema["properties"] ? parts(schema, depth) : pick(CONDITIONS)
    end
  end

  def several(schema, name, depth)
    more = (depth > DEEPEST) ? 0 : @random.rand(3)
    Array.new(schema["minItems"].to_i + more) { value(schema["items"] || {}, name, depth + 1) }
  end

  def parts(schema, depth)
    needed = schema["required"] || []
    schema["properties"].filter_map { |name, part|
      [name, value(part, name, depth + 1)] if needed.include?(name) || (depth <= DEEPEST && !rarely)
    }.to_h
  end

  def word(schema)
    return pick(schema["enum"]) if schema["enum"] && !rarely(12)

    pick({"date" => DAYS, "date-time" => TIMES}.fetch(schema["format"], WORDS))
  end

  def number(schema, name)
    among = name.match?(/id|with|people|step|lane/) ? @ids[:all] * 4 : []
    number = pick(among + NUMBERS)
    number = [number, schema["minimum"]].compact.max
    rarely(4) ? number : [number, schema["maximum"]].compact.min
  end
end
