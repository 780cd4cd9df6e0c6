# frozen_string_literal: true

# The craft itself: reckonings over plain values. Ruby's standard library alone, so
# that bare Ruby can load it; each part is loaded when it is first named.
module Vestry
  # The craft: reckonings over plain values, on Ruby's standard library alone.
  module Core
    autoload :Apart, "#{__dir__}/apart"
    autoload :BadInput, "#{__dir__}/bad_input"
    autoload :Contract, "#{__dir__}/contract"
    autoload :Measure, "#{__dir__}/measure"
    autoload :Near, "#{__dir__}/near"
    autoload :Plausible, "#{__dir__}/plausible"
    autoload :Reckoning, "#{__dir__}/reckoning"
    autoload :Rulebook, "#{__dir__}/rulebook"
    autoload :RulebookRanges, "#{__dir__}/rulebook_ranges"
    autoload :RulebookProse, "#{__dir__}/rulebook_prose"
    autoload :RulebookCheck, "#{__dir__}/rulebook_check"
    autoload :RulebookOverrides, "#{__dir__}/rulebook_overrides"
    autoload :Season, "#{__dir__}/season"
    autoload :Values, "#{__dir__}/values"

    # Measuring the tree as it stands.
    module Survey
      autoload :Bark, "#{__dir__}/survey/bark"
      autoload :Canopy, "#{__dir__}/survey/canopy"
      autoload :CutPoint, "#{__dir__}/survey/cut_point"
      autoload :Figure, "#{__dir__}/survey/figure"
      autoload :Head, "#{__dir__}/survey/head"
      autoload :LimbLine, "#{__dir__}/survey/limb_line"
      autoload :NextTag, "#{__dir__}/survey/next_tag"
      autoload :DictatedLine, "#{__dir__}/survey/dictated_line"
      autoload :FlatView, "#{__dir__}/survey/flat_view"
      autoload :Outline, "#{__dir__}/survey/outline"
      autoload :Pictured, "#{__dir__}/survey/pictured"
      autoload :Place, "#{__dir__}/survey/place"
      autoload :Projective, "#{__dir__}/survey/projective"
      autoload :Rectify, "#{__dir__}/survey/rectify"
      autoload :Section, "#{__dir__}/survey/section"
      autoload :Tags, "#{__dir__}/survey/tags"
      autoload :Taper, "#{__dir__}/survey/taper"
    end

    # Deciding what to do to it.
    module Plan
      autoload :Bloom, "#{__dir__}/plan/bloom"
      autoload :ChangedCut, "#{__dir__}/plan/changed_cut"
      autoload :Chance, "#{__dir__}/plan/chance"
      autoload :Recut, "#{__dir__}/plan/recut"
      autoload :Foresee, "#{__dir__}/plan/foresee"
      autoload :Futures, "#{__dir__}/plan/futures"
      autoload :Frost, "#{__dir__}/plan/frost"
      autoload :FrostStages, "#{__dir__}/plan/frost_stages"
      autoload :Allotment, "#{__dir__}/plan/allotment"
      autoload :AllotmentPrices, "#{__dir__}/plan/allotment_prices"
      autoload :AllotmentProblem, "#{__dir__}/plan/allotment_problem"
      autoload :AllotmentSearch, "#{__dir__}/plan/allotment_search"
      autoload :AfterBreak, "#{__dir__}/plan/after_break"
      autoload :BudFallback, "#{__dir__}/plan/bud_fallback"
      autoload :LimbWays, "#{__dir__}/plan/limb_ways"
      autoload :LongCut, "#{__dir__}/plan/long_cut"
      autoload :Methods, "#{__dir__}/plan/methods"
      autoload :Packing, "#{__dir__}/plan/packing"
      autoload :Projection, "#{__dir__}/plan/projection"
      autoload :ProposedMethod, "#{__dir__}/plan/proposed_method"
      autoload :Regrowth, "#{__dir__}/plan/regrowth"
      autoload :Shortage, "#{__dir__}/plan/shortage"
      autoload :Soundness, "#{__dir__}/plan/soundness"
      autoload :Stages, "#{__dir__}/plan/stages"
      autoload :StagesSearch, "#{__dir__}/plan/stages_search"
      autoload :StickChoice, "#{__dir__}/plan/stick_choice"
      autoload :Sticks, "#{__dir__}/plan/sticks"
      autoload :TopOff, "#{__dir__}/plan/top_off"
      autoload :Vigour, "#{__dir__}/plan/vigour"
      autoload :WorkTime, "#{__dir__}/plan/work_time"
      autoload :Worth, "#{__dir__}/plan/worth"
    end

    # The wood: how much, how strong a dip, how it keeps, which stick where.
    module Wood
      autoload :Assignment, "#{__dir__}/wood/assignment"
      autoload :Dilution, "#{__dir__}/wood/dilution"
      autoload :OwnLife, "#{__dir__}/wood/own_life"
      autoload :Failures, "#{__dir__}/wood/failures"
      autoload :Heading, "#{__dir__}/wood/heading"
      autoload :Match, "#{__dir__}/wood/match"
      autoload :Multiply, "#{__dir__}/wood/multiply"
      autoload :RisingMatch, "#{__dir__}/wood/rising_match"
      autoload :Scarce, "#{__dir__}/wood/scarce"
      autoload :ShortStub, "#{__dir__}/wood/short_stub"
      autoload :Spent, "#{__dir__}/wood/spent"
      autoload :Storage, "#{__dir__}/wood/storage"
      autoload :Viability, "#{__dir__}/wood/viability"
      autoload :Wanted, "#{__dir__}/wood/wanted"
    end

    # When the bark is ready, and what warmth does for a union.
    module Slip
      autoload :BarkDates, "#{__dir__}/slip/bark_dates"
      autoload :Callus, "#{__dir__}/slip/callus"
      autoload :Chill, "#{__dir__}/slip/chill"
      autoload :Closing, "#{__dir__}/slip/closing"
      autoload :Crew, "#{__dir__}/slip/crew"
      autoload :DayOfWeather, "#{__dir__}/slip/day_of_weather"
      autoload :DegreeDays, "#{__dir__}/slip/degree_days"
      autoload :Forecast, "#{__dir__}/slip/forecast"
      autoload :Gaps, "#{__dir__}/slip/gaps"
      autoload :GraftDay, "#{__dir__}/slip/graft_day"
      autoload :LateSpring, "#{__dir__}/slip/late_spring"
      autoload :OrdinaryDays, "#{__dir__}/slip/ordinary_days"
      autoload :StationDays, "#{__dir__}/slip/station_days"
      autoload :UsualDays, "#{__dir__}/slip/usual_days"
      autoload :WarmthProjection, "#{__dir__}/slip/warmth_projection"
      autoload :Window, "#{__dir__}/slip/window"
    end

    # Making the graft.
    module Graft
      autoload :Figures, "#{__dir__}/graft/figures"
      autoload :Flaps, "#{__dir__}/graft/flaps"
      autoload :GraftKind, "#{__dir__}/graft/graft_kind"
      autoload :Materials, "#{__dir__}/graft/materials"
      autoload :Steps, "#{__dir__}/graft/steps"
      autoload :Tape, "#{__dir__}/graft/tape"
    end

    # Mending a stripped trunk.
    module Repair
      autoload :Bridge, "#{__dir__}/repair/bridge"
      autoload :MarginRun, "#{__dir__}/repair/margin_run"
      autoload :Mending, "#{__dir__}/repair/mending"
      autoload :Shoots, "#{__dir__}/repair/shoots"
      autoload :Triage, "#{__dir__}/repair/triage"
      autoload :WoundShape, "#{__dir__}/repair/wound_shape"
    end

    # Looking after what was grafted.
    module Tend
      autoload :Care, "#{__dir__}/tend/care"
      autoload :Answer, "#{__dir__}/tend/answer"
      autoload :Cause, "#{__dir__}/tend/cause"
      autoload :Climate, "#{__dir__}/tend/climate"
      autoload :Fruit, "#{__dir__}/tend/fruit"
      autoload :GraftLife, "#{__dir__}/tend/graft_life"
      autoload :Leaf, "#{__dir__}/tend/leaf"
      autoload :Nurse, "#{__dir__}/tend/nurse"
      autoload :SleepingBud, "#{__dir__}/tend/sleeping_bud"
      autoload :StockShoots, "#{__dir__}/tend/stock_shoots"
      autoload :RegraftDay, "#{__dir__}/tend/regraft_day"
      autoload :Rules, "#{__dir__}/tend/rules"
      autoload :Union, "#{__dir__}/tend/union"
      autoload :Wind, "#{__dir__}/tend/wind"
    end

    # Saying what came of it.
    module Tally
      autoload :Balance, "#{__dir__}/tally/balance"
      autoload :Closure, "#{__dir__}/tally/closure"
      autoload :Compare, "#{__dir__}/tally/compare"
      autoload :Cholesky, "#{__dir__}/tally/cholesky"
      autoload :Learned, "#{__dir__}/tally/learned"
      autoload :LikeWithLike, "#{__dir__}/tally/like_with_like"
      autoload :Pooled, "#{__dir__}/tally/pooled"
      autoload :GraftOutcome, "#{__dir__}/tally/graft_outcome"
      autoload :Growth, "#{__dir__}/tally/growth"
      autoload :Outcome, "#{__dir__}/tally/outcome"
      autoload :Scaffold, "#{__dir__}/tally/scaffold"
      autoload :Take, "#{__dir__}/tally/take"
    end

    # Practising it: exercises, what they stand on, and what comes next.
    module Practice
      autoload :CutLog, "#{__dir__}/practice/cut_log"
      autoload :Exercise, "#{__dir__}/practice/exercise"
      autoload :Next, "#{__dir__}/practice/next"
      autoload :Face, "#{__dir__}/practice/face"
      autoload :Hands, "#{__dir__}/practice/hands"
      autoload :LineUp, "#{__dir__}/practice/line_up"
      autoload :Order, "#{__dir__}/practice/order"
      autoload :PlannedYears, "#{__dir__}/practice/planned_years"
      autoload :PlansTried, "#{__dir__}/practice/plans_tried"
      autoload :ReadGraft, "#{__dir__}/practice/read_graft"
      autoload :RightWay, "#{__dir__}/practice/right_way"
      autoload :Seal, "#{__dir__}/practice/seal"
      autoload :Seat, "#{__dir__}/practice/seat"
      autoload :Shoot, "#{__dir__}/practice/shoot"
      autoload :TenYears, "#{__dir__}/practice/ten_years"
      autoload :ToWood, "#{__dir__}/practice/to_wood"
      autoload :WhereToCut, "#{__dir__}/practice/where_to_cut"
      autoload :WhichFace, "#{__dir__}/practice/which_face"
      autoload :WhichShoot, "#{__dir__}/practice/which_shoot"
      autoload :Bridge, "#{__dir__}/practice/bridge"
      autoload :Contact, "#{__dir__}/practice/contact"
      autoload :Flatness, "#{__dir__}/practice/flatness"
      autoload :Read, "#{__dir__}/practice/read"
      autoload :Seating, "#{__dir__}/practice/seating"
    end

    # Every reckoning by the name it is asked for; the value is where it lives.
    RECKONINGS = {
      "section" => "Survey::Section",
      "rectify" => "Survey::Rectify",
      "outline" => "Survey::Outline",
      "pictured" => "Survey::Pictured",
      "bark" => "Survey::Bark",
      "canopy" => "Survey::Canopy",
      "cut-point" => "Survey::CutPoint",
      "methods" => "Plan::Methods",
      "sticks" => "Plan::Sticks",
      "stick-choice" => "Plan::StickChoice",
      "stages" => "Plan::Stages",
      "vigour" => "Plan::Vigour",
      "regrowth" => "Plan::Regrowth",
      "projection" => "Plan::Projection",
      "worth" => "Plan::Worth",
      "foresee" => "Plan::Foresee",
      "allotment" => "Plan::Allotment",
      "bloom" => "Plan::Bloom",
      "frost" => "Plan::Frost",
      "wood" => "Wood::Wanted",
      "scarce" => "Wood::Scarce",
      "match" => "Wood::Match",
      "dilution" => "Wood::Dilution",
      "storage" => "Wood::Storage",
      "degree-days" => "Slip::DegreeDays",
      "slip" => "Slip::Forecast",
      "callus" => "Slip::Callus",
      "window" => "Slip::Window",
      "closing" => "Slip::Closing",
      "chill" => "Slip::Chill",
      "graft-day" => "Slip::GraftDay",
      "crew" => "Slip::Crew",
      "tape" => "Graft::Tape",
      "flaps" => "Graft::Flaps",
      "materials" => "Graft::Materials",
      "contact" => "Practice::Contact",
      "flatness" => "Practice::Flatness",
      "seating" => "Practice::Seating",
      "read" => "Practice::Read",
      "practice-line-up" => "Practice::LineUp",
      "practice-bridge" => "Practice::Bridge",
      "practice-face" => "Practice::Face",
      "practice-hands" => "Practice::Hands",
      "practice-where-to-cut" => "Practice::WhereToCut",
      "practice-order" => "Practice::Order",
      "practice-read-graft" => "Practice::ReadGraft",
      "practice-which-face" => "Practice::WhichFace",
      "practice-right-way" => "Practice::RightWay",
      "practice-seal" => "Practice::Seal",
      "practice-seat" => "Practice::Seat",
      "practice-shoot" => "Practice::Shoot",
      "practice-ten-years" => "Practice::TenYears",
      "practice-to-wood" => "Practice::ToWood",
      "practice-which-shoot" => "Practice::WhichShoot",
      "bridge" => "Repair::Bridge",
      "triage" => "Repair::Triage",
      "shoots" => "Repair::Shoots",
      "mending" => "Repair::Mending",
      "care" => "Tend::Care",
      "nurse" => "Tend::Nurse",
      "wind" => "Tend::Wind",
      "fruit" => "Tend::Fruit",
      "cause" => "Tend::Cause",
      "closure" => "Tally::Closure",
      "take" => "Tally::Take",
      "compare" => "Tally::Compare",
      "balance" => "Tally::Balance"
    }.freeze

    # The reckoning called +name+.
    #
    # @param name [String] as listed in RECKONINGS
    # @return [Module] something that answers +contract+ and +reckon+
    # @raise [BadInput] when there is none of that name
    def self.reckoning(name)
      path = RECKONINGS.fetch(name) do
        raise BadInput.new("name", "no reckoning #{name.inspect}; one of #{RECKONINGS.keys.join(', ')}")
      end
      path.split("::").inject(self) { |part, constant| part.const_get(constant) }
    end

    # The fields of every reckoning with what each may be, as docs/reckonings.md has them.
    def self.reckonings_page
      told = RECKONINGS.keys.sort.map { |name| "## #{name}\n\n```\n#{reckoning(name).contract.help.strip}\n```\n" }
      "# What each reckoning takes\n\nWritten by `bin/reckon --all`; `bin/reckon NAME < input.json` answers one.\n\n" \
        "#{told.join("\n")}"
    end
  end
end
