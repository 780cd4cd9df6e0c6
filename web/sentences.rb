# frozen_string_literal: true

module Vestry
  module Web
    # Says the reasons a reckoning gives, as sentences. The reckonings give codes and figures;
    # the words are here and nowhere else.
    module Sentences
      include Repairs
      include Tending
      include Counting
      include Coming
      include Changes
      include MethodReasons
      include PlanReasons
      include WoodReasons
      include PracticeReasons
      include BarkReasons

      EVENTS = {
        "grafted" => "it was grafted", "knit" => "callus has knit",
        "patience" => "callus has knit and a margin has passed",
        "leafed" => "leaves show", "pushing" => "shoots could push", "hand" => "shoots reach a hand",
        "autumn" => "growth stops", "winter" => "the leaves are off", "before-winter" => "growth stops",
        "summer-over" => "growth stops",
        "spring" => "fruit sets in the second spring", "failed" => "it was seen dead",
        "moved" => "buds were seen moving", "shaded" => "it had been shaded for {care.figures.shade_days}",
        "found" => "it was found", "covered" => "it was covered",
        "slips" => "bark slips", "slips-again" => "bark slips again", "slips-next" => "bark slips",
        "closes" => "bark closes", "closes-again" => "bark closes",
        "sleeps" => "its wood can be cut asleep",
        "repaired" => "the repair", "scion-died" => "a scion was seen dead", "set-later" => "others were set",
        "knit-later" => "callus should have knit what was set since", "autumn-later" => "the autumn after that",
        "second-spring" => "fruit sets in the second spring",
        "too-late" => "its regrowth can be budded",
        "rebud" => "another bud can be set", "again" => "it was seen dead, of an older one in spring",
        "lost-winter" => "the winter after it was seen dead", "again-next" => "the spring after it was seen dead",
        "bud-next" => "the summer after it was seen dead", "parted" => "its donor was cut off",
        "cracked" => "the seal was seen cracked",
        "loose" => "the wrap was seen loose", "biting" => "the tape was seen biting",
        "snapped" => "a shoot was seen snapped", "pests" => "pests were seen", "fruit-seen" => "fruit was seen",
        "stock-seen" => "stock shoots were seen", "moving-seen" => "its buds were seen to move",
        "long-seen" => "a shoot was seen too long for its age",
        "heat" => "the first heat", "gale" => "a gale", "frost" => "frost",
        "drought" => "it had been dry for {care.figures.dry_days}", "callused" => "callus was seen",
        "joined" => "callus all round, {care.figures.approach_days} on",
        "halved" => "its donor was cut half through", "waking" => "the bud is to wake",
        "closed" => "the stub has all but closed", "scaffold" => "it carries itself as a limb",
        "last-regraft" => "the last day for another graft", "last-bud" => "the last day for a bud",
        "last-regraft-now" => "the last day for another graft that year",
        "last-bud-now" => "the last day for a bud that year"
      }.freeze
      BASES = {
        "fact" => "", "seen" => " (seen)", "expected" => " (expected)", "weather" => " (by the weather kept here)",
        "already" => ", as it did when the wound was found", "calendar" => " (by the calendar)",
        "temperature" => " (by the temperatures since)", "temperature-so-far" => " (by the temperatures so far)"
      }.freeze

      # @param reason [Hash] with a +code+ and its figures
      # @return [String]
      def say(reason)
        send("say_#{reason.fetch(:code)}", reason)
      end

      def say_care_after(r)
        if %w[autumn winter spring before-winter].include?(r[:after])
          return "By the #{r[:basis] == 'calendar' ? 'calendar' : 'season'} here, from #{day(r[:on])}."
        end

        "#{r[:days].zero? ? 'At once' : "#{counted(r[:days], 'day')} after"} #{event_words(r[:after])} " \
        "on #{day(r[:on])}#{BASES.fetch(r[:basis])}."
      end

      # Of what comes again.
      def say_care_yearly(r) = "Each year since #{day(r[:on])}: #{event_words(r[:after])}."
      def say_care_again(r) = "#{counted(r[:days], 'day')} after it was last seen to, on #{day(r[:on])}."
      def say_care_missed(r) = "Again, as it was not done by #{day(r[:on])}."

      # What a task hangs on.
      def event_words(name) = Core::RulebookProse.fill(EVENTS.fetch(name), orchard.rulebook)

      def say_care_when(r)
        point = Core::Rulebook.shipped.book("schools").dig("points", r[:point], "name")
        "#{point}: #{choice_name(r[:point], r[:choice])}."
      end

      def say_care_why(r) = in_own_units(orchard.rulebook.task(r[:rule])["why"])
      def say_care_answered(r) = "Seen at the visit of #{day(r[:on])}."
      def say_care_set(r) = "Set on #{day(r[:on])}."
      def say_care_put_off(r) = "Put off on #{day(r[:on])} until #{day(r[:until])}#{": #{r[:why]}" if r[:why]}."

      # What an orchard of feet carries a material in, and how much of its own unit that is. A drop of glue is told in
      # ml everywhere, as its bottle is.
      CARRIED = { "m" => ["ft", Core::Measure::FOOT / 1000], "cm" => ["in", Core::Measure::INCH / 10],
                  "g" => ["oz", Core::Values::OUNCE_G] }.freeze

      # An amount of a material, rounded up as it is bought.
      def say_amount(item)
        return item[:amount].to_i.to_s if item[:unit] == "piece"

        unit, holds = (CARRIED[item[:unit]] if orchard.units == "imperial") || [item[:unit], 1]
        "#{(item[:amount] / holds).ceil} #{unit}"
      end

      # The same with its name: 18 perch canes.
      def say_material(item)
        names = orchard.rulebook.book("materials").dig("items", item[:item])
        [say_amount(item), (names["many"] unless item[:amount] == 1) || names["name"]]
      end

      UNMEASURED = {
        length_mm: "length: where to cut is a guess until it is measured",
        fork_mm: "where it leaves: heights and the animals' reach are guesses",
        bearing_deg: "which way it points: the balance and the drawing are guesses",
        rise_deg: "how steeply it rises: heights and the stick's faces are guesses"
      }.freeze

      STATES = {
        "knitting" => "knitting", "false-start" => "moved too soon, on probation",
        "callused" => "has knit and sleeps", "sleeping" => "a living bud, asleep",
        "waiting" => "should have knit; waiting to move",
        "late" => "late, not seen to take", "growing" => "growing", "failed" => "failed",
        "gone" => "gone with its limb"
      }.freeze

      # @param care [Hash] see Core::Tend::Care
      def say_state(care)
        state = care[:state]
        unsure = !%w[growing failed gone].include?(state)
        return "cut from its donor; not known yet to live alone" if care[:parted_on] && unsure
        return "has knit, and stands on its donor's root" if state == "callused" && care[:kind] == "approach"

        care[:moving] && %w[waiting late].include?(state) ? "moving; not seen to have taken yet" : STATES.fetch(state)
      end

      # Where a stick's cambium comes to lie against a split stub's.
      def say_meets(meets, face_mm)
        lean = "leaned by #{meets[:lean_deg]}°, #{thickness(meets[:leaned_mm])} of #{thickness(face_mm)} meet even " \
               "where the eye is #{thin(meets[:eye_mm])} out"
        return "Flush at the outer bark, cambium lies on cambium; #{lean}." if meets[:flush] == 1

        where = meets[:offset_mm].positive? ? "outside" : "inside"
        depth = thin(meets[:offset_mm].abs)
        "Flush at the outer bark, the stick's cambium lies #{depth} #{where} the stub's, and nothing meets. Set it " \
          "#{depth} further #{where == 'outside' ? 'in' : 'out'}; #{lean}."
      end
    end
  end
end
