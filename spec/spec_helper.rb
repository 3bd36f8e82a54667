# frozen_string_literal: true

if ENV["COVERAGE"]
  require "simplecov"
  SimpleCov.start { add_filter "/spec/" }
end

require_relative "../lib/nimble_letter"
Dir[File.join(__dir__, "support", "**", "*.rb")].sort.each { |file| require file }

include NimbleLetter # rubocop:disable Style/MixinUsage -- specs speak the product's own words

RSpec.configure do |config|
  config.expect_with(:rspec) { |expectations| expectations.include_chain_clauses_in_custom_matcher_descriptions = true }
  config.mock_with(:rspec) { |mocks| mocks.verify_partial_doubles = true }
  config.disable_monkey_patching!
  config.filter_run_when_matching :focus
  config.shared_context_metadata_behavior = :apply_to_host_groups
  # How each example went and how long it took: for `bin/test --failed`, and to share them out between lanes.
  config.example_status_persistence_file_path = File.expand_path("../#{ENV.fetch("NIMBLE_VAR", "var-test")}/examples.txt", __dir__)
  config.order = :random
  Kernel.srand config.seed
end
