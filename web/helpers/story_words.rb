# frozen_string_literal: true

module Vestry
  module Web
    module Helpers
      # What the story of a limb or of a wound says of each thing that was recorded, with all of it and by whom.
      module StoryWords
        LIFTED = { "clean" => "the bark lifted cleanly", "reluctant" => "the bark lifted reluctantly",
                   "none" => "the bark did not lift" }.freeze
        VERDICTS = { "took" => "It took.", "failed" => "It failed.", "wait" => "Not yet; wait." }.freeze
        STALKS = { "falls" => "its leaf stalk falls at a touch", "clings" => "its leaf stalk is dry and clings" }.freeze
        private_constant :LIFTED, :VERDICTS, :STALKS

        HANDS = { happened: :by, visited: :seen_by, settled: :done_by, tallied: :tallied_by }.freeze
        private_constant :HANDS

        # Who it was that saw or did it; nil where the words say so.
        def story_hand(event) = HANDS[event[:kind]]&.then { |column| event[:row][column] }

        # As it was set: method, wood, and who.
        def story_of_set(graft)
          [method_name(graft.technique).downcase, set_wood(graft), ("beside #{graft.donor}" if graft.donor),
           ("#{place_words(graft.technique)} #{length(graft.cut_mm)} from the fork" if graft.cut_mm),
           "by #{graft.grafter}"].compact.join(", ")
        end

        # How it was finished, and what the day was like.
        def story_of_finish(graft)
          wrap, seal, cover = %w[wrap seal cover].map do |point|
            graft.finish(point)&.then { |choice| choice_name(point, choice) }
          end
          done = [wrap, seal, ("cover: #{cover}" if cover), LIFTED[graft.bark_slip], ("braced" if graft.brace),
                  ("a perch for birds" if graft.finish(:perch))].compact
          weather = graft.conditions && "Weather: #{graft.conditions.chomp('.')}."
          [whole_sentence(done), weather].compact.join(" ")
        end

        def story_of_visit(visit)
          [VERDICTS[visit.verdict], whole_sentence(seen_parts(visit))].compact.join(" ")
        end

        def story_of_task(row)
          what = { "put-off" => "put off until #{short_day(row.until_on) if row.until_on}",
                   "waived" => "left out" }.fetch(row.what, row.what)
          why = row.why && ", #{row.why.chomp('.')}"
          "#{task_words({ rule: row.key.split(':').first })['title']}: #{what}#{why}."
        end

        def story_of_count(tally)
          return "Autumn tally: lost#{", #{tally.breakage.chomp('.')}" if tally.breakage}." unless tally.alive

          "Autumn tally: #{counted_parts(tally).compact.join(', ')}."
        end

        # Where what it grew from was cut below it or came off that day, it went with that.
        def story_of_gone(limb)
          from, on = limb.parent, limb.gone_on
          with = from && (from.gone_on == on || from.grafts.any? { |graft| graft.grafted_on == on })
          "It came off#{" with #{from.tag}" if with}."
        end

        def story_of_loss(graft)
          "Lost: #{loss_name(graft.lost_cause).downcase}."
        end

        # How a trunk was mended, and what the day was like.
        def story_of_repair(wound)
          done = [(choice_name("wrap", wound.wrap) if wound.wrap),
                  (choice_name("seal", wound.seal) if wound.seal),
                  Contracts::LogRepairForm::FIXINGS[wound.fixing], LIFTED[wound.bark_slip]]
          [whole_sentence(done), whole_sentence([wound.conditions&.chomp(".")])].compact.join(" ")
        end

        def story_of_wound_visit(wound, visit)
          fates = %w[alive dead].filter_map do |fate|
            ids = visit.fates.filter_map { |id, row| id if row[:fate] == fate }
            numbers = wound.scions.select { |row| ids.include?(row.id) }.map(&:number).sort
            "#{fate.capitalize}: #{numbers.join(', ')}." if numbers.any?
          end
          [("Leaves #{visit.leaves}." if visit.leaves), *fates,
           ("Blossom stripped." if visit.blossom_stripped)].compact.join(" ")
        end

        def wound_cause(wound) = Sentences::Repairs::CAUSES.fetch(wound.cause)

        private

        def set_wood(graft)
          stick = graft.scion_mm && thickness(graft.scion_mm)
          from = graft.bundles.map(&:code)
          [say_set(graft), ("wood #{stick} thick" if stick), ("from #{listed(from)}" if from.any?)].compact.join(", ")
        end

        def seen_parts(visit)
          [("buds #{visit.buds}" if visit.buds), STALKS[visit.leaf_stalk],
           (none_or(visit.callus, "callus", "callus #{visit.callus}") if visit.callus),
           ("longest shoot #{length(visit.longest_shoot_mm)}" if visit.longest_shoot_mm),
           ("#{counted(visit.sticks_alive, 'stick')} alive" if visit.sticks_alive),
           ("a shoot snapped" if visit.snapped), ("seal #{visit.seal_state}" if visit.seal_state),
           ("#{Drawings::GraftUnion.bound_with(visit.graft)} #{visit.wrap_state}" if visit.wrap_state),
           (pests_said(visit) if visit.pests),
           (none_or(visit.stock_shoots, "stock shoots", "#{visit.stock_shoots} stock shoots") if visit.stock_shoots),
           ("fruit" if visit.fruit)]
        end

        def none_or(state, what, words) = state == "none" ? "no #{what}" : words

        def pests_said(visit) = { "none" => "no pests", "other" => "other pests" }.fetch(visit.pests, visit.pests)

        def counted_parts(tally)
          ["alive", ("grew #{length(tally.growth_mm)}" if tally.growth_mm),
           ("#{counted(tally.sticks_alive, 'stick')} alive" if tally.sticks_alive),
           ("#{thickness(tally.above_mm)} thick above the union" if tally.above_mm),
           ("#{thickness(tally.below_mm)} below it" if tally.below_mm), ("a waist at the union" if tally.waist),
           ("wound #{length(tally.open_a_mm)}\u00a0×\u00a0#{length(tally.open_b_mm)}" if tally.open_a_mm),
           ("#{tally.angle_deg.to_i}° to the upright" if tally.angle_deg),
           ("crop #{crop(tally.crop_kg)}" if tally.crop_kg), (tally.breakage.chomp(".") if tally.breakage)]
        end

        # Parts as a sentence; nil where there are none.
        def whole_sentence(parts)
          words = parts.compact.join(", ")
          words.empty? ? nil : "#{words[0].upcase}#{words[1..]}."
        end
      end
    end
  end
end
