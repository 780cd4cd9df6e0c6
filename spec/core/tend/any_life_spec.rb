# frozen_string_literal: true

# Lives of grafts drawn by chance: whatever is seen of one and done at it, its tasks keep to what they are.
RSpec.describe "Whatever happens to a graft", :core do
  # What asks for another in the place of one that died: each in its own time of the year.
  AGAIN_RULES = %w[regraft beside rejoin rebud regraft-bud regraft-spring beside-spring bud-spring again-this-spring
                   bud-this-summer].freeze
  SEEN_BY_CHANCE = { buds: [nil, "asleep", "swelling", "leafing", "dead"], callus: [nil, "none", "some", "full"],
                     longest_shoot_mm: [nil, nil, 100.0, 700.0], verdict: [nil, nil, nil, "took", "wait", "failed"],
                     seal: [nil, "cracked"], wrap: [nil, "biting", "loose"], stock_shoots: [nil, "many"],
                     pests: [nil, "aphids"], leaf_stalk: [nil, "falls", "clings"], fruit: [false, true],
                     snapped: [false, false, true] }.freeze
  METHODS_BY_CHANCE = %w[rind bark cleft side-bark approach chip-bud shield-bud].freeze

  let(:book) { Vestry::Core::Rulebook.shipped }

  def life(random)
    draw = ->(from) { from.sample(random: random) }
    made = Date.new(2024, 1, 1) + random.rand(700)
    method = draw[METHODS_BY_CHANCE]
    graft = { grafted_on: made, method: method, species: draw[%w[apple walnut citrus]], sticks: draw[[1, 2, 3]],
              headed: %w[rind bark cleft].include?(method), head_off: draw[[false, true]],
              southern: draw[[false, true]],
              brace: draw[[false, true]], planned_again: draw[[false, false, true]] }
    last = made + random.rand(1000)
    visits = Array.new(random.rand(5)) do
      { on: made + random.rand((last - made).to_i + 1), **SEEN_BY_CHANCE.transform_values(&draw) }
    end
    { graft: graft, observations: visits, school: draw[book.school_names], today: last }
  end

  def care(facts) = Vestry::Core::Tend::Care.reckon(facts)
  def to_do(answer) = answer[:tasks].select { |task| %w[open late].include?(task[:status]) }

  # What is wrong with an answer.
  def faults(answer)
    open = to_do(answer)
    rules = open.map { |task| task[:rule] }
    again = rules & AGAIN_RULES
    [("a key twice" if answer[:tasks].map { |task| task[:key] }.uniq!),
     ("one thing asked twice" if rules.map { |rule| book.task(rule)["title"] }.uniq!),
     ("days out of order" unless open.all? { |task| task.values_at(:opens_on, :due_on, :closes_on).each_cons(2)
       .all? { |one, other| one <= other } }),
     ("asked again in several ways: #{again}" if again.size > 1),
     ("asked again while it lives" if again.any? && answer[:state] != "failed"),
     ("looked after though it is dead: #{rules - again}" if answer[:state] == "failed" && (rules - again).any?)].compact
  end

  it "asks each thing once, another in one way alone, and of a dead one nothing else" do
    random = Random.new(7)
    wrong = Array.new(800) { life(random) }.flat_map do |facts|
      now = care(facts)
      settled = to_do(now).select { random.rand < 0.4 }
      done = settled.map { |task| { key: task[:key], on: facts[:today], what: %w[done waived].sample(random: random) } }
      later = care(facts.merge(done: done, today: facts[:today] + random.rand(200)))
      still = to_do(later).map { |task| task[:key] } & done.map { |each| each[:key] }
      found = faults(now) + faults(later) + still.map { |key| "#{key} is settled and asked" }
      found.map { |fault| [fault, facts] }
    end
    expect(wrong.first).to be_nil
  end
end
