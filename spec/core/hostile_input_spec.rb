# frozen_string_literal: true

require "timeout"

# Every reckoning, asked twenty thousand times for what nobody should ask.
RSpec.describe "hostile input" do
  seed = 20_260_518
  names = Vestry::Core::RECKONINGS.keys

  # A value for a field: mostly one that it allows, at the ends of its range more often than not.
  def likely(field, random)
    case field.kind
    when :number, :integer then number(field, random)
    when :flag then random.rand < 0.5
    when :date then (Date.new(2026, 3, 1) + random.rand(-400..400)).iso8601
    when :time then (Time.utc(2026, 3, 1) + random.rand(-9_000_000..9_000_000)).iso8601
    when :name then field.names.sample(random: random)
    when :key then [random.rand(9), %w[a b 1 ÿ].sample(random: random)].sample(random: random)
    when :text then "why"
    when :list then Array.new(field.size || [0, 1, 2, 3, 5, 9].sample(random: random)) { likely(field.of, random) }
    when :record then record(field.fields, random)
    end
  end

  def number(field, random)
    low, high = field.least || field.above || -1e9, field.most || field.below || 1e9
    value = [low, high, low + (high - low) * random.rand, low + 1, low + 1e-12, high - 1e-12, 1, 10, 60, 0.5]
      .sample(random: random)
    field.kind == :integer ? value.round : value.to_f
  end

  def record(fields, random)
    fields.reject { |field| field.optional && random.rand < 0.4 }.to_h do |field|
      [field.name.to_s, random.rand < 0.04 ? odd(random) : likely(field, random)]
    end
  end

  def odd(random)
    [nil, true, -1, 0, 1e308, -1e308, 5e-324, 10**60, "", "NaN", "a\xFFb", "x" * 5000, [], {}, [[[]]], "2026-02-30",
     "9999-12-31", "infinity", Float::NAN, Float::INFINITY].sample(random: random)
  end

  def finite?(value)
    case value
    when Float then value.finite?
    when Hash then value.values.all? { |each| finite?(each) }
    when Array then value.all? { |each| finite?(each) }
    else true
    end
  end

  names.each_with_index do |name, place|
    it "answers #{name} with finite numbers or one line that names a field, and soon" do
      random = Random.new(seed + place)
      reckoning = Vestry::Core.reckoning(name)
      wrong = Array.new(20_000 / names.size + 1) do
        input = record(reckoning.contract.fields, random)
        input[%w[extra bark ÿ].sample(random: random)] = 1 if random.rand < 0.02
        answer = Timeout.timeout(2) { reckoning.reckon(input) }
        finite?(answer) && JSON.generate(answer) ? nil : [input, answer]
      rescue Vestry::Core::BadInput => e
        e.message.lines.size == 1 && e.message.match?(/\A[\w\[\].?ÿ]+: ./) ? nil : [input, e.message]
      rescue StandardError, SystemStackError => e
        [input, e.class, e.message[0, 200], e.backtrace.first]
      end.compact
      expect(wrong.first).to be_nil
    end
  end
end
