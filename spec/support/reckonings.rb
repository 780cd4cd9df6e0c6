# frozen_string_literal: true

# What every reckoning's spec leans on: JSON in, as from a shell, and answers to compare.
module ReckoningHelpers
  def reckon(name, input) = Vestry::Core.reckoning(name).reckon(JSON.parse(JSON.generate(input)))

  def refusal(name, input)
    reckon(name, input)
    nil
  rescue Vestry::Core::BadInput => e
    e
  end
end

require "json"
RSpec.configure { |config| config.include ReckoningHelpers, :core }
