# frozen_string_literal: true

# What every reckoning answers near inputs that are met in an orchard, as it was last read by a person. When a rule is
# to change:
#   ANSWERS=anew bin/test spec/core/answers_spec.rb
# asks and writes all of it again, and what became different is read before it is kept.
RSpec.describe "What is answered" do
  folder = File.join(__dir__, "answers")
  JSON.parse(File.read(File.join(folder, "inputs.json"))).each do |name, inputs|
    file = File.join(folder, "#{name}.txt")
    anew = ENV["ANSWERS"] == "anew"

    it "by #{name} is what was read of it" do
      near = inputs.map { |input| NearAnswers.new(name, input) }
      was = anew ? [] : File.readlines(file, chomp: true)
      asked = anew ? near.map(&:places) : places(was)
      now = near.zip(asked).flat_map do |each, places|
        lines = places.map { |path, value| "#{JSON.generate([*path, value])} #{each.difference(path, value)}" }
        ["[] #{each.whole}", *lines]
      end
      File.write(file, "#{now.join("\n")}\n") if anew
      expect(now.zip(was).reject { |one, other| one == other }.first(5)).to eq [] unless anew
    end
  end

  it "has been asked of every reckoning" do
    asked = JSON.parse(File.read(File.join(folder, "inputs.json"))).select { |_, inputs| inputs.any? }.keys
    expect(asked).to match_array Vestry::Core::RECKONINGS.keys
  end

  # The facts and their values that were asked of each input.
  def places(lines)
    lines.slice_before(/\A\[\]/).map do |of_one|
      of_one.drop(1).map { |line| JSON.parse(line[/\A\[.*?\](?= )/]).then { |*path, value| [path, value] } }
    end
  end
end
