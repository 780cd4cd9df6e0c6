# frozen_string_literal: true

# What a reckoning takes where nothing is said stands in its contract, and in its own method for those that call it from
# within: both are the same.
RSpec.describe "What is taken where nothing is said" do
  JSON.parse(File.read(File.join(__dir__, "answers", "inputs.json"))).each do |name, inputs|
    reckoning = Vestry::Core.reckoning(name)
    declared = reckoning.contract.fields.reject { |field| field.default.nil? }.map(&:name)
    left_out = reckoning.method(:call).parameters.filter_map { |kind, word| word if kind == :key } & declared
    next if left_out.empty?

    it "by #{name} is what is declared: #{left_out.join(', ')}" do
      inputs.each do |input|
        values = reckoning.contract.check(input.reject { |key, _| left_out.include?(key.to_sym) })
        within, declared = [values.reject { |key, _| left_out.include?(key) }, values].map do |given|
          reckoning.call(rulebook: Vestry::Core::Rulebook.shipped, **given)
        end
        expect(within).to eq declared
      end
    end
  end
end
