# frozen_string_literal: true

require "prop_check"
require_relative "../core/core"

RSpec.configure do |config|
  config.expect_with(:rspec) { |expectations| expectations.syntax = :expect }
  config.disable_monkey_patching!
  config.filter_run_when_matching :focus
  config.define_derived_metadata(file_path: %r{/spec/core/}) { |metadata| metadata[:core] = true }
  # The core comes first: when it is wrong, nothing else is worth reading. Within that, any order.
  config.register_ordering(:global) do |groups|
    random = Random.new(config.seed)
    groups.partition { |group| group.metadata[:core] }.flat_map { |part| part.shuffle(random: random) }
  end
  Kernel.srand config.seed
end

Dir["#{__dir__}/support/*.rb"].sort.each { |file| require file }
