# frozen_string_literal: true

RSpec.describe "The solver of large allotments" do
  let(:allotment) { Vestry::Core::Plan::Allotment }
  let(:random) { Random.new(8) }

  # Made-up orchards with a fixed limb and little of all that is shared.
  def made(limbs, exact_to:)
    all = Array.new(limbs) do |n|
      { id: n, share: 0.1 + random.rand * 0.2, stub_mm: 30.0 + random.rand * 60, shoot_mm: 800.0,
        take: 0.5 + random.rand * 0.4, sticks: 1 + random.rand(3), minutes: 15.0 + random.rand(20),
        variety: %w[v w][n % 2], fixed: n.zero? ? 1 : nil }
    end
    { trees: all.group_by { |each| each[:id] % 3 }.map { |id, few| { id: id, worth: 1.0 + id, cap: 0.4, limbs: few } },
      seasons: 2, horizon: 3, minutes: [80.0, 90.0], exact_to: exact_to,
      wood: %w[v w].product([0, 1]).map { |variety, season| { variety: variety, season: season, sticks: 4 } } }
  end

  def solved(asked) = allotment.solved(asked) { |problem| Vestry::Outside::AllotmentSolver.call(problem, seconds: 20) }

  it "finds what searching through finds, keeps what is fixed, and proves it" do
    5.times do
      asked = made(9, exact_to: 12)
      best = allotment.reckon(asked)
      answer = solved(asked.merge(exact_to: 0))
      expect(answer[:value]).to be_within(best[:value] * 1e-4).of(best[:value])
      expect(answer[:bound]).to be_between(best[:value] - 1e-9, best[:value] * 1.00021)
      expect(answer[:gap]).to be < 0.0002
      expect(answer[:chosen]).to include(limb: 0, tree: 0, season: 1)
    end
  end

  it "is never worth less than what is found without it" do
    3.times do
      asked = made(40, exact_to: 12)
      expect(solved(asked)[:value]).to be >= allotment.reckon(asked)[:value]
    end
  end

  it "is asked only where there is too much to search through" do
    expect { |asked| allotment.solved(made(9, exact_to: 12), &asked) }.not_to yield_control
  end

  it "is not believed where its choice passes a limit, leaves out what is fixed or is worth less" do
    asked = made(20, exact_to: 0)
    found = allotment.reckon(asked)
    all_at_once = ->(problem) { [problem.limbs.to_h { |limb| [limb, 1] }, true] }
    without_the_fixed = ->(problem) { [{ problem.limbs[1] => 0 }, true] }
    at_another = ->(problem) { [{ problem.limbs[0] => 0 }, true] }
    the_fixed_alone = ->(problem) { [problem.limbs.select(&:fixed).to_h { |limb| [limb, 1] }, false] }
    [all_at_once, without_the_fixed, at_another, the_fixed_alone, ->(_) {}].each do |answer|
      expect(allotment.solved(asked, &answer)).to eq found
    end
  end

  it "leaves the answer as it is where its library is not there, or breaks, and says so in the log" do
    asked = made(20, exact_to: 0)
    found = allotment.reckon(asked)
    expect(solved(asked)[:value]).to be >= found[:value]
    log = StringIO.new
    [Fiddle::DLError, Highs::Error].each do |error|
      allow(Highs).to receive(:mip).and_raise(error, "no such library")
      expect(Vestry::Outside::FailureLog.writing_to(log) { solved(asked) }).to eq found
    end
    expect(log.string.scan("asking the solver").size).to eq 2
    hide_const("Highs")
    expect(solved(asked)).to eq found
  end
end
