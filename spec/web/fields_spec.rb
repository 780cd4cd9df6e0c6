# frozen_string_literal: true

# What each form takes, and within which bounds, and what an address may ask for, is written down for those who fill
# them by a program: it changes only where that is changed too.
#   FIELDS=anew bin/test spec/web/fields_spec.rb
RSpec.describe "The fields of every form", :database do
  let(:file) { File.join(Vestry::ROOT, "docs/fields.md") }

  # Lists that are longer are others' own: the world's time zones.
  LONGEST_LIST = 40

  def forms
    Vestry::Web::Contracts.constants.sort.map { |name| Vestry::Web::Contracts.const_get(name) }
      .select { |each| each.is_a?(Class) && each < Dry::Validation::Contract && each.schema }
  end

  def words(facts)
    facts.filter_map do |fact, value|
      case fact
      when :type then [*value].map(&:to_s).-(%w[null]).join(" or ")
      when :format then "a #{value}"
      when :minimum then "from #{value}"
      when :maximum then "to #{value}"
      when :exclusiveMinimum then "above #{value}"
      when :exclusiveMaximum then "below #{value}"
      when :maxLength then "at most #{value} characters"
      when :pattern then value.include?("{12}") ? "a UUID of version 4" : "as `#{value}`"
      when :enum then value.size > LONGEST_LIST ? "one of a list" : "one of #{value.join(', ')}"
      when :items then "of each: #{words(value)}"
      end
    end.reject(&:empty?).join(", ").sub(/(from [^,]+), (to )/, '\1 \2')
  end

  def table(schema, lengths = {}, long = {})
    told = schema.json_schema(loose: true)
    told[:properties].flat_map do |name, facts|
      low, high = lengths[name] && Vestry::Core::Rulebook.shipped.value("plausible.#{lengths[name]}")
      said = [words(facts), low && "a length from #{low} to #{high} mm", long[name] && "up to #{long[name]}"].compact
      "| #{name} | #{'yes' if told[:required].include?(name.to_s)} | #{said.reject(&:empty?).join('; ')} |"
    end
  end

  # What a file of trees, limbs or weather may hold.
  def files
    tree, day = Vestry::Records::TreeFile, Vestry::Core::Slip::DayOfWeather
    [*tree::KNOWN.map { |name, columns|
       ["", "## A file of #{name}", "", "| column | needed | takes |", "|---|---|---|",
        *columns.map { |column| "| #{column} | #{'yes' if tree::NEEDED[name].include?(column)} | #{number(column)} |" }]
     },
     "", "## A file of weather", "", "| column | takes |", "|---|---|",
     *day::RANGES.map { |column, range| "| #{column} | from #{range.begin} to #{range.end} #{day::UNITS[column]} |" }]
  end

  def number(column)
    tree = Vestry::Records::TreeFile
    range = tree::NUMBERS[column] or return nil
    "#{tree::WHOLE.include?(column) ? 'a whole number' : 'a number'} from #{range.begin} to #{range.end}"
  end

  # What a program writes that no page has a form for.
  def writes
    own = Vestry::Web::Api::Writes.all.reject do |write|
      write.form.name.to_s.include?("Contracts") || write.form.schema.key_map.none?
    end
    own.flat_map do |write|
      ["", "## #{write.verb.to_s.upcase} #{write.path}", "", "| field | needed | takes |", "|---|---|---|",
       *table(write.form.schema, write.form.lengths, write.form.long)]
    end
  end

  def written
    heading = ["| field | needed | takes |", "|---|---|---|"]
    parts = forms.map do |form|
      ["", "## #{form.name[/\w+\z/]}", "", *heading, *table(form.schema, form.lengths, form.long)]
    end
    ["# What each form takes", "", "A length is read in any unit, and held to what is likely here; what else a form " \
                                   "asks for stands with its fields.",
     *parts.flatten, *files.flatten, *writes, "", "## What an address may ask for", "", *heading,
     *table(Vestry::Web::Contracts::Query::SCHEMA)]
  end

  it "hold no more of a list than can be meant" do
    most = { Vestry::Web::Contracts::BundleForm => [:checked, "growth", 20],
             Vestry::Web::Contracts::LogRepairForm => [:beside, 10, 40],
             Vestry::Web::Contracts::PatternForm => [:rows, "A", 2000] }
    expect(most.map do |form, (field, each, count)|
      [count, count + 1].map { |size| form.schema.call(field => [each] * size).errors.to_h.key?(field) }
    end).to eq [[false, true]] * 3
  end

  it "are what is written of them" do
    forms
    Dry::Schema.load_extensions(:json_schema)
    now = written
    File.write(file, "#{now.join("\n")}\n") if ENV["FIELDS"] == "anew"
    there = File.readlines(file, chomp: true)
    expect([now - there, there - now]).to eq [[], []]
    expect(now).to eq there
  end
end
