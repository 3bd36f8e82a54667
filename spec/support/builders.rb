# frozen_string_literal: true

require_relative "builders_alone"

RSpec.configure { |config| config.include Builders }
