# frozen_string_literal: true

module Vestry
  module Web
    module Helpers
      # What the practice bench says and draws.
      module PracticeBench
        Words = Struct.new(:name, :asks, :rule, :done, :caution, keyword_init: true)
        EXERCISES = {
          "shoot" => Words.new(
            name: "Wood from a shoot", done: "Cut it so", caution: "Cut away from the hand that holds.",
            asks: "Find the wood worth keeping in a year's shoot, its buds, and its sticks.",
            rule: "Ripe wood of this year, from above the thick base to where the tip turns green, and nothing below " \
                  "the ring. A slim bud grows; a fat one flowers."
          ),
          "right-way" => Words.new(
            name: "Right way up", done: "Turn these", caution: "Sort wood sitting down, the knife closed.",
            asks: "Find the sticks that lie upside down, before they dry.",
            rule: "Buds lean towards the tip, and each stands above the scar of its leaf."
          ),
          "to-wood" => Words.new(
            name: "Down to wood", done: "Look at the faces",
            caution: "A glove on, and the blade away from the thumb, when you do it.",
            asks: "Shave a stick for a flap graft, white on every face.",
            rule: "Cut until the middle is white from edge to edge, and leave a thread of bark at each corner."
          ),
          "line-up" => Words.new(
            name: "Cambium on cambium", done: "Bind it so",
            caution: "A split stub springs: keep fingers out of the cleft.",
            asks: "Set a stick with thin bark on a stub with thick bark.",
            rule: "The outside may lie where it will: it is cambium on cambium that knits. Where it cannot be seen, " \
                  "a slight lean makes sure that the lines cross."
          ),
          "where-to-cut" => Words.new(
            name: "Where to cut", done: "Saw it so",
            caution: "Undercut first, stand aside of the fall, and no saw above the shoulder.",
            asks: "Put the saw on a limb, and say how it is cut.",
            rule: "Clear of forks and sick wood, thick enough for the method, above what grazes and within reach. " \
                  "Undercut first, or the limb tears its bark as it goes."
          ),
          "face" => Words.new(
            name: "The long face", done: "Look along it",
            caution: "One draw, the blade away from you, both arms still.",
            asks: "Draw the blade through a stick, flat and in one.",
            rule: "Cut off about a thumb below a bud, on the side that the bud is not. From half of the stick at its " \
                  "thin end to nothing, {lengths_mm} mm long, and flat."
          ),
          "bridge" => Words.new(
            name: "Bridging a trunk", done: "Set them so",
            caution: "Kneel, and cut the scion on a board, never against the knee.",
            asks: "Place, measure and turn the scions that bridge a stripped trunk.",
            rule: "Evenly round, each as long as its gap and a seat at both ends, bowed a little, and every bud " \
                  "upwards."
          ),
          "hands" => Words.new(
            name: "Where the hand goes", done: "Hold it so", caution: "A glove on the hand that holds, always.",
            asks: "Put the hand that holds where a slipping knife does not go.",
            rule: "Behind the blade, on the stick, and so near that it cannot give way; never in what the blade may " \
                  "sweep, fifteen degrees either way."
          ),
          "order" => Words.new(
            name: "In their order", done: "Do it so", caution: "Lay the knife down between two steps.",
            asks: "Put the steps of a method into the order in which the hands do them.",
            rule: "What dries is cut last, and what was cut is joined, bound and closed before the clock runs out."
          ),
          "which-face" => Words.new(
            name: "Where on the rim", done: "Set them there",
            caution: "Turn the limb's stub towards you; do not lean over the saw.",
            asks: "Set sticks where the rim of a stub is flattest, and not all on one side.",
            rule: "A flat face lies on a flat place. On a ridge or a sharp bend it stands off, and nothing knits there."
          ),
          "read-graft" => Words.new(
            name: "Read a graft", done: "Do that", caution: "What is opened is closed again the same hour.",
            asks: "Say what to do with a graft as it is found.",
            rule: "Buds alone prove nothing before callus can have knit. What strangles or gapes comes first; what " \
                  "lives is left alone; what is dead while bark still slips is grafted again."
          ),
          "seat" => Words.new(
            name: "How far in", done: "Leave it so",
            caution: "Push with the thumb behind the stick, never against an edge.",
            asks: "Slide a stick down behind the bark, and no further.",
            rule: "As far down as leaves {showing_mm} mm of cut face above the rim, and never further than the " \
                  "bark was opened."
          ),
          "seal" => Words.new(
            name: "Every opening", done: "Wax these",
            caution: "Wax that smokes burns: warm it to honey and no further.",
            asks: "Close every opening of a finished graft, and nothing else.",
            rule: "Every cut that lies bare: tips, shoulders, slits, the rim, splits. Nothing between faces, where " \
                  "it has to knit, and no bud."
          ),
          "ten-years" => Words.new(
            name: "Ten years of a tree", done: "Let ten years go by",
            caution: "A plan is no licence to climb: what is high is left to who is trained for it.",
            asks: "Plan a tree: which limb in which spring, with how many sticks, tied or not, and the nurse.",
            rule: "No more than half of the head in a spring, the large limbs first and with the most sticks, ties " \
                  "where the wind is, and the nurse until the grafts carry the tree."
          ),
          "which-shoot" => Words.new(
            name: "Which shoot goes", done: "Cut these",
            caution: "Young shoots are rubbed off with a thumb; no knife beside a union.",
            asks: "Trace the shoots of a stub in its first summer, and cut what grows from the stock.",
            rule: "What grows above the wax grew from a stick and stays. What leaves the bark below it goes, at its " \
                  "foot. A nurse is a limb of its own."
          )
        }.freeze
        DRAWINGS = {
          "shoot" => -> { Drawings::PracticeShoot }, "right-way" => -> { Drawings::PracticeRightWay },
          "to-wood" => -> { Drawings::PracticeToWood }, "line-up" => -> { Drawings::PracticeLineUp },
          "where-to-cut" => -> { Drawings::PracticeWhereToCut }, "hands" => -> { Drawings::PracticeHands },
          "face" => -> { Drawings::PracticeFace }, "bridge" => -> { Drawings::PracticeBridge },
          "order" => -> { Drawings::PracticeOrder }, "which-face" => -> { Drawings::PracticeWhichFace },
          "read-graft" => -> { Drawings::PracticeReadGraft }, "seat" => -> { Drawings::PracticeSeat },
          "seal" => -> { Drawings::PracticeSeal }, "ten-years" => -> { Drawings::PracticeTenYears },
          "which-shoot" => -> { Drawings::PracticeWhichShoot }
        }.freeze
        # What is said where there is nothing to say.
        WHOLE = %w[practice_cut_well practice_hand_safe practice_face_true practice_bridged practice_in_order
                   practice_seated
                   practice_read_well practice_all_up practice_line_full practice_seat_well practice_seal_tight
                   practice_all_white practice_all_gone practice_good_wood practice_planned_well].freeze
        private_constant :Words, :EXERCISES, :DRAWINGS, :WHOLE

        def exercise_words(name) = EXERCISES.fetch(name)
        def exercise_name(name) = exercise_words(name).name

        # What is to be done, with the figures of the exercise.
        def exercise_task(name, exercise)
          in_own_units(send(:"task_of_#{name.tr('-', '_')}", exercise)).gsub(/(\d) (?=%|mm\b)/, "\\1\u00A0")
        end

        def task_of_to_wood(exercise)
          low, high = exercise[:bark_mm].map { |mm| format("%.1f", mm) }
          "The bark of this stick, #{format('%g', exercise[:scion_mm])} mm thick, is #{low} to #{high} mm. Pull each " \
            "face down to wood and round the stick, so that #{said_between(exercise[:strip_mm])} mm of bark stay " \
            "between two faces."
        end

        def task_of_right_way(exercise)
          "#{counted(exercise[:sticks].size, 'stick')}, and #{exercise[:seconds]} seconds. Press each that lies " \
            "upside down."
        end

        def task_of_line_up(exercise)
          stock, stick = exercise.values_at(:stock_bark_mm, :stick_bark_mm).map { |range| said_between(range) }
          "Bark on the stub is #{stock} mm, on the stick #{stick} mm. Slide the stick in until cambium meets cambium " \
            "over #{exercise[:length_mm]} mm; lean it with up and down, if you would."
        end

        def task_of_seat(exercise)
          opened = " The bark is opened no further than you see." if exercise[:slit_mm] < exercise[:face_mm]
          "Pull the stick down. #{said_between(exercise[:showing_mm])} mm of its cut face are to stand above the " \
            "rim.#{opened}"
        end

        # What an exercise teaches, with the figures by which this one is judged.
        def exercise_rule(name, exercise)
          in_own_units(exercise_words(name).rule.gsub(/\{(\w+)\}/) { said_between(exercise.fetch($1.to_sym)) })
        end

        def task_of_where_to_cut(exercise)
          up, low, high = exercise.values_at(:fork_height_mm, :lowest_mm, :highest_mm).map { |mm| about_length(mm) }
          "For #{with_article(method_name(exercise[:method]).downcase)}: #{length(exercise[:base_diameter_mm])} " \
            "at its fork, which is #{up} up, rising " \
            "#{exercise[:rise_deg]}°. What grazes reaches #{low}, you reach #{high}. Afterwards " \
            "#{length(exercise[:tear_mm])} of bark hang torn below the rim: what then?"
        end

        def task_of_face(exercise)
          above, long, thick = [*exercise.values_at(:above_mm, :lengths_mm), [exercise[:scion_mm]]]
            .map { |range| in_own_units("#{said_between(range)} mm") }
          "Pull the end to where the stick is cut off, its lowest bud #{above} above that. Then draw the blade " \
            "through it in one, from half of its #{thick} to nothing, #{long} long." \
            "#{strays(exercise[:strays_mm])}"
        end

        def strays(mm)
          return "" if mm.zero?

          " This hand strays: in the middle of its way the blade runs #{format('%g', mm.abs)} mm " \
            "#{mm.positive? ? 'deeper' : 'shallower'} than you draw it."
        end

        def task_of_bridge(exercise)
          bowed = format("%.2f", 1 + 8.0 / 3 * exercise[:bow]**2)
          "#{trims(exercise)}Pull #{counted(exercise[:count], 'scion')} evenly round the trunk. Each is cut as long " \
            "as its gap × #{bowed} and #{format('%g', exercise[:seat_mm] * 2)} mm for its seats, to " \
            "#{exercise[:within_mm]} mm; and turned, where its buds hang."
        end

        def trims(exercise)
          return "" unless exercise[:dead_mm].positive?

          "#{exercise[:dead_mm]} mm of bark at both margins are dead: trim them first, and the gap is longer by " \
            "twice as much. "
        end

        def task_of_hands(_)
          "The blade is drawn along the arrow. Pull the hand to where it holds the stick, clear of the blade."
        end

        def task_of_order(exercise)
          "#{method_name(exercise[:method])}: #{counted(exercise[:steps].size, 'step')} that follow on each other. " \
            "Move each up or down until they do.#{what_the_clock_asks(exercise)}"
        end

        CLOCK_ASKS = { starts: "“dries” where it begins to", stops: "“closed” where it no longer does" }.freeze
        private_constant :CLOCK_ASKS

        def what_the_clock_asks(exercise)
          asked = CLOCK_ASKS.values_at(*exercise[:asks_clock])
          return "" if asked.empty?

          " A bare face of #{exercise[:kind]} is dead after #{exercise[:minutes]} minutes: press " \
            "#{asked.join(', and ')}."
        end

        def task_of_which_face(exercise)
          apart = ", at least #{exercise[:apart_deg]}° apart" if exercise[:sticks] > 1
          "Pull #{counted(exercise[:sticks], 'stick')} with faces #{format('%g', exercise[:width_mm])} mm wide round " \
            "the rim to where they lie flattest#{apart}" \
            "#{exercise[:wind_from_deg] ? ', one of them to windward: wind comes as the arrow has it' : ''}."
        end

        def task_of_read_graft(exercise)
          slips = exercise[:regraft] ? "Bark still slips, and there is wood." : "Bark no longer slips."
          "#{counted(exercise[:days], 'day')} after it was set it has had #{percent(exercise[:callus_share])} of the " \
            "warm days to knit. Of such grafts #{percent(exercise[:expected_take])} take. #{slips}"
        end

        def task_of_seal(_) = "Press each place that has to be closed with wax."

        def task_of_ten_years(exercise)
          "#{counted(exercise[:limbs].size, 'limb')}, #{counted(exercise[:sticks], 'stick')} in the first winter and " \
            "#{exercise[:sticks_a_winter]} in each later one; a stick takes in #{percent(exercise[:take])} of cases. " \
            "#{what_a_spring_bears(exercise)} A graft grows about #{exercise[:thickens_mm].round} mm thicker a year, " \
            "and carries of its limb the square of its share in the stub's thickness."
        end

        def what_a_spring_bears(exercise)
          minutes = exercise[:past].map { |year| year[:minutes] }.minmax.join(" to ")
          "Bark slips for #{minutes} minutes of a crew's work; a stub takes #{exercise[:minutes_a_stub]}, each " \
            "further stick #{exercise[:minutes_a_stick]}. There are ties for #{counted(exercise[:braces], 'limb')}, " \
            "and roots for #{percent(exercise[:cap])} of the head in a spring."
        end

        def task_of_which_shoot(exercise)
          "#{counted(exercise[:sticks].size, 'stick')} and #{counted(exercise[:shoots].size, 'shoot')}. Press the " \
            "number of each that goes; with the arrow keys the blade moves up and down it."
        end

        def task_of_shoot(exercise)
          "Pull both ends to the wood that you would use, press each node with a bud that grows, and press the wood " \
            "where you cut it to sticks of #{exercise[:buds_a_stick]} buds."
        end

        # What stands in a field of an answer: what was typed, where it is shown again; else a number as it is.
        def answered(name, standing)
          return params[name].to_s[0, 8000] if request.post? && params.key?(name)

          standing.is_a?(Numeric) ? format("%g", standing) : standing
        end

        # In what lengths stand in the fields of an answer.
        def unit = orchard.units == "imperial" ? "in" : "mm"
        def unit_word = unit == "in" ? "inches" : "mm"

        # @param places [Integer] of an inch
        # @return [String] a length as it stands in such a field
        def in_unit(millimetres, places = 3)
          format("%g", unit == "in" ? (millimetres / Core::Measure::INCH).round(places) : millimetres)
        end

        # The boxes of an answer that are ticked.
        def answered_boxes(name, standing)
          request.post? ? Array(params[name]).map(&:to_i) : standing || []
        end

        def said_between(range) = range.map { |mm| format("%g", mm) }.join(" to ")

        # @return [String] the drawing of an exercise, as it is answered and judged
        def practice_drawing(name, exercise, answer = nil, result = nil)
          units = %w[where-to-cut bridge to-wood].include?(name) ? { units: orchard.units } : {}
          if name == "order"
            steps = exercise[:steps].map { |step| step.merge(does: in_own_units(step[:does])) }
            exercise = exercise.merge(steps: steps)
          end
          in_own_units(DRAWINGS.fetch(name).call.new(exercise, result: result, **units, **(answer || {})).svg)
        end

        CUTS = { "face" => "Long face", "wedge" => "Wedge", "tongue" => "Tongue" }.freeze
        private_constant :CUTS
        def cut_name(kind) = CUTS.fetch(kind)

        def say_cut_log(log)
          return "Twenty cuts of one kind on prunings, measured: that is when a hand knows." if log[:cuts].empty?
          return "Ready: #{log[:inside]} of the last #{log[:cuts].size} are as they should be." if log[:ready]

          "#{log[:inside]} of the last #{log[:cuts].size} are as they should be; #{orchard.rulebook
            .value('reckoning.cut_log.ready')} of #{orchard.rulebook.value('reckoning.cut_log.of')} are wanted."
        end

        def say_offered(offered)
          return "Nothing to practise is due today." if offered.empty?

          "#{counted(offered.size, 'exercise')} for today: #{listed(offered.map { |each| exercise_name(each[:exercise])
            .downcase })}."
        end

        def say_practice(name, result)
          return exercise_words(name).asks unless result

          first = result[:feedback].first
          words = in_own_units(say(first))
          return words if !result[:passed] || WHOLE.include?(first[:code])

          "Well enough, but for this: #{words}"
        end
      end
    end
  end
end
