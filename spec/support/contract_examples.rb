# frozen_string_literal: true

require "yaml"

# Requests made from the contract: the least that each route takes, and such with one thing in them that nobody would send.
class ContractExamples
  # What somebody of ill will puts where something else is meant.
  HOSTILE = [
    nil,
    true,
    -1,
    0,
    2**31,
    2**70,
    1.5,
    1e300,
    "",
    " ",
    "\u0000",
    "\u202Egnp.exe",
    "' OR 1=1 -- ",
    "<script>alert(1)</script>",
    "%_\\",
    "{{#{" " * 20_000}",
    "x" * 60_000,
    "2026-02-31",
    [],
    [nil],
    [[]],
    [2**70],
    ["x"] * 5000,
    {},
    {"a" => {"b" => []}},
    {"all" => [{"any" => []}] * 5000},
    {"type" => "doc", "content" => [{"type" => "paragraph", "content" => [nil]}]},
    {"person.tags" => "x", "person.company" => [], "person.email" => {}, "person.nobody" => 1}
  ].freeze

  # One route. verb: in capitals; path: with its names in braces; body: schema or nil
  Route = Struct.new(:verb, :path, :body, :query, keyword_init: true) do
    def to_s = "#{verb} #{path}"
  end

  def initialize(contract = YAML.safe_load_file(NimbleLetter::Web::Contract::PATH))
    @contract = contract
  end

  # @return [Array<Route>]
  def routes
    @contract["paths"].flat_map do |path, verbs|
      verbs.except("parameters").map do |verb, route|
        query = [*verbs["parameters"], *route["parameters"]].map { |one| found(one) }.select { |one| one["in"] == "query" }
        Route.new(verb: verb.upcase, path: path, body: route.dig("requestBody", "content", "application/json", "schema"), query: query)
      end
    end
  end

  # @return [Object] the least that keeps to the schema
  def least(schema)
    schema = found(schema)
    return schema["enum"].first if schema["enum"]
    return least(schema["allOf"].first) if schema["allOf"]

    case schema["type"]
    when "object", nil then needed(schema).to_h { |name| [name, least(property(schema, name))] }
    when "array" then Array.new(schema.fetch("minItems", 0)) { least(schema["items"]) }
    when "integer", "number" then schema.fetch("minimum", 1)
    when "boolean" then true
    else (schema["format"] == "date-time") ? "2026-05-12T08:00:00Z" : "x" * [schema.fetch("minLength", 1), 1].max
    end
  end

  # @return [Array<Object>] bodies that are the least but for one value at the top or one level below
  def hostile(schema)
    whole = found(schema)
    names = (whole["properties"] || {}).keys
    plain = least(whole)
    at_top = names.flat_map { |name| HOSTILE.map { |value| plain.merge(name => value) } }
    below = names.flat_map do |name|
      inner = found(property(whole, name))
      (inner["properties"] || {}).keys.flat_map do |key|
        HOSTILE.first(12).map { |value| plain.merge(name => least(inner).merge(key => value)) }
      end
    end
    at_top + below
  end

  # @param name [String] of a schema of the contract
  # @return [Boolean] whether there is a place for one anywhere in this schema
  def speaks_of?(schema, name, seen = [])
    case schema
    when Array then schema.any? { |one| speaks_of?(one, name, seen) }
    when Hash
      ref = schema["$ref"]&.split("/")&.last
      return ref == name || (!seen.include?(ref) && speaks_of?(found(schema), name, [*seen, ref])) if ref

      speaks_of?(schema.values, name, seen)
    else false
    end
  end

  private

  def needed(schema) = schema["required"] || (schema["properties"] || {}).keys.first(schema.fetch("minProperties", 0))

  def property(schema, name) = schema.fetch("properties", {}).fetch(name, {"type" => "object"})

  def found(schema)
    return schema unless schema["$ref"]

    found(schema["$ref"].delete_prefix("#/").split("/").inject(@contract) { |part, name| part.fetch(name) })
  end
end
