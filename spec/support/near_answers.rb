# frozen_string_literal: true

require "digest"

# What a reckoning answers near one input: each fact of it a little more, a little less, left out, and exactly where the
# answer turns into another.
class NearAnswers
  FACTORS = [0.25, 0.5, 0.8, 0.9, 1.1, 1.25, 2.0, 4.0].freeze
  NEAR = [0.9, 1.1].freeze
  DAYS = [-60, -20, -7, -1, 0, 1, 7, 20, 60].freeze
  # So many turns are kept of one fact, other names of one, and letters of one answer.
  TURNS = 6
  NAMES = 6
  LONGEST = 160
  # What is left out.
  NONE = "none"
  private_constant :FACTORS, :NEAR, :DAYS, :TURNS, :NAMES, :LONGEST

  # @param name [String] the reckoning's
  # @param input [Hash] with string keys
  def initialize(name, input)
    @reckoning = Vestry::Core.reckoning(name)
    @text = JSON.generate(input)
    @before = ask(input)
  end

  # @return [String] the answer itself, in one line
  def whole = line_of(@before)

  # What is worth being asked: pairs of a fact's path and a value.
  #
  # @return [Array<Array>]
  def places
    facts(JSON.parse(@text)).flat_map do |path, value|
      found = value.nil? ? [] : values(path, value)
      found += [NONE] if path.last.is_a?(String) && answer(path, NONE).is_a?(Hash)
      found.uniq.map { |each| [path, each] }
    end
  end

  # @return [String] what is other than in the answer itself where a fact has another value
  def difference(path, value)
    now = answer(path, value)
    return line_of(now) if now.is_a?(String) || @before.is_a?(String)

    was, is = leaves(@before), leaves(now)
    gone = (was.keys - is.keys).map { |key| [key, "gone"] }
    joined(is.reject { |key, each| was.key?(key) && printed(was[key]) == printed(each) }.to_a + gone)
  end

  private

  def answer(path, value)
    input = JSON.parse(@text)
    *way, last = path
    inside = way.inject(input) { |part, step| part[step] }
    value == NONE ? inside.delete(last) : inside[last] = value
    ask(input)
  end

  def ask(input)
    @reckoning.reckon(input)
  rescue Vestry::Core::BadInput => e
    e.message
  end

  def line_of(answer) = answer.is_a?(String) ? "refused: #{answer[0, LONGEST]}" : joined(leaves(answer).to_a)

  def joined(pairs)
    line = pairs.map { |key, value| "#{key}=#{printed(value)}" }.join(" ")
    return "the same" if line.empty?

    line.size > LONGEST ? "#{line[0, LONGEST]}… #{pairs.size} #{Digest::MD5.hexdigest(line)[0, 8]}" : line
  end

  def printed(value) = value.is_a?(Float) ? format("%.6g", value) : value.to_s

  def leaves(value, at = "", all = {})
    case value
    when Hash then value.each { |key, each| leaves(each, at.empty? ? key.to_s : "#{at}.#{key}", all) }
    when Array
      all["#{at}.size"] = value.size
      value.each_with_index { |each, index| leaves(each, "#{at}[#{index}]", all) }
    else all[at] = value
    end
    all
  end

  # An answer without its measures and days: what it chooses, counts, warns of and refuses.
  def shape(answer)
    return answer.gsub(/[\d.]+/, "#") if answer.is_a?(String)

    leaves(answer).transform_values do |value|
      case value
      when Float, Date, Time then "#"
      when String then value.gsub(/[\d.]+/, "#")
      else value
      end
    end
  end

  # Of a list, the first and the last.
  def facts(value, path = [])
    case value
    when Hash then value.flat_map { |key, each| facts(each, [*path, key]) }
    when Array
      ends = value.empty? ? [] : [0, value.size - 1].uniq
      ends.flat_map { |at| facts(value[at], [*path, at]) }
    else [[path, value]]
    end
  end

  def values(path, value)
    field = field_of(path)
    case field&.kind
    when :flag then [!value]
    when :integer then [value - 1, value + 1, *turns(path, around(value))]
    when :number then [*beside(value.to_f), *turns(path, measures(value.to_f))]
    when :date then days(path, Date.iso8601(value))
    when :name then (field.names - [value]).each_slice([field.names.size / NAMES, 1].max).map(&:first)
    else []
    end
  end

  def field_of(path)
    path.inject(nil) do |above, part|
      next above&.of if part.is_a?(Integer)

      fields = above ? above.fields.to_a : @reckoning.contract.fields
      fields.find { |each| each.name.to_s == part }
    end
  end

  def days(path, day)
    numbers = turns(path, DAYS) { |apart| (day + apart).iso8601 }
    [-1, 1, *numbers].map { |apart| (day + apart).iso8601 }
  end

  def beside(value) = value.zero? ? [] : NEAR.map { |factor| tidy(value * factor) }
  def around(value) = [value, *FACTORS.map { |factor| (value * factor).round }, 0, 1, 2, 3].uniq.sort
  def measures(value)
    value.zero? ? [0.0, 0.1, 1.0, 10.0, 100.0] : [value, *FACTORS.map { |each| tidy(value * each) }].uniq.sort
  end

  def tidy(value) = format("%.4g", value).to_f

  # Where the shape is another on one side than on the other: both whole numbers about it, or the very measure at which
  # it turns where that is a tidy one.
  def turns(path, tried, &into)
    seen = Hash.new { |all, each| all[each] = shape(answer(path, into ? into.call(each) : each)) }
    found = tried.each_cons(2).flat_map { |low, high| seen[low] == seen[high] ? [] : between(low, high, seen) }
    found.uniq.first(TURNS)
  end

  def between(low, high, seen, left: TURNS)
    here, far = seen[low], high
    whole = low.is_a?(Integer) && high.is_a?(Integer)
    while high - low > (whole ? 1 : 1e-9 * [high.abs, low.abs].max)
      mid = whole ? (low + high) / 2 : (low + high) / 2.0
      seen[mid] == here ? low = mid : high = mid
    end
    found = whole ? [low, high] : edge(low, high)
    seen[high] == seen[far] || left.zero? ? found : found + between(high, far, seen, left: left - 1)
  end

  def edge(low, high)
    round = (0..5).map { |digits| high.round(digits) }.find { |each| (each - high).abs <= 2e-9 * high.abs }
    round ? [round] : [tidy(low * 0.999), tidy(high * 1.001)]
  end
end
