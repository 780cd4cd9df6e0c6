# frozen_string_literal: true

module Vestry
  module Records
    # Rows as the plain values the reckonings take.
    module CoreInputs
      module_function

      def section(limb)
        limb.as_measured { sectioned(limb) }
      end

      def sectioned(limb)
        thickness = limb.girth_mm ? { girth_mm: limb.girth_mm.to_f } :
          { diameters_mm: [limb.wide_mm.to_f, limb.narrow_mm.to_f] }
        Core::Survey::Section.reckon(thickness.merge(bark_mm: bark(limb, limb.across_mm)))
      end

      # @param technique [String] the method the place is wanted for
      def cut_point(limb, technique)
        orchard = limb.orchard
        found = Core::Survey::CutPoint.reckon(
          { base_diameter_mm: section(limb)[:diameter_mm], length_mm: limb.length_mm.to_f, whole_mm: limb.grown_mm.to_f,
            measured: outer(limb), fork_height_mm: limb.fork_height_mm, rise_deg: limb.rise_deg.to_f, method: technique,
            lowest_mm: limb.tree.trained? ? nil : lowest(orchard), highest_mm: orchard.reach_mm.to_f,
            stub_mm: fresh_to(limb), branches: branches(limb), unsound: unsound(limb) }, rulebook: orchard.rulebook
        )
        limb.tree.trained? && found[:feasible] ? near_trunk(limb, found) : found
      end

      # A graft as Regrowth takes it: its stub, an ordinary first shoot of its kind, and what was counted of it when its
      # seasons had grown.
      def regrowth(graft)
        made = graft.orchard.season.name_of(graft.grafted_on)
        { stub_mm: graft.stub_mm.to_f,
          shoot_mm: Core::Plan::Vigour.ordinary(graft.limb.tree.species, graft.orchard.rulebook),
          measured: grown(graft).map { |tally| { season: [tally.season - made, 0].max, mm: tally.across_mm } } }
      end

      # The counts of a living graft's wood in which nothing was still growing.
      def grown(graft)
        graft.tallies.select do |tally|
          tally.across_mm && !Tally.early?(graft.orchard, tally.season, tally.tallied_on)
        end
      end

      # Up to where its wood is fresh, on a limb that was cut off for a graft that died.
      def fresh_to(limb)
        limb.graft.fresh_to_mm if limb.graft&.fate == "lost"
      end

      # The arm of a wall-trained tree is cut as near the trunk as it can be: what grows is tied to its wire.
      def near_trunk(limb, found)
        at = found[:from_mm]
        found.merge(at_mm: at, diameter_mm: diameter_at(limb, at), height_mm: limb.height_at(at))
      end

      # A second diameter further out, where it was measured and the limb tapers.
      def outer(limb)
        return nil unless limb.outer_at_mm && limb.outer_mm && limb.outer_mm < section(limb)[:diameter_mm]

        { at_mm: limb.outer_at_mm.to_f, diameter_mm: limb.outer_mm.to_f }
      end

      # Above what grazes there and above the mower.
      def lowest(orchard) = [orchard.browse_mm, orchard.rulebook.value("reckoning.cut.above_mower")].max

      # Branches of a limb that still stand, with those that its tree's plan keeps as nurses, and those on which, or on
      # a branch of which, a graft lives or is to be made.
      def branches(limb)
        roles = (limb.tree.plan&.plan_limbs || []).to_h { |row| [row.limb_id, row.role] }
        limb.standing_children.map do |each|
          { fork_at_mm: each.fork_mm.to_f, diameter_mm: section(each)[:diameter_mm], nurse: roles[each.id] == "nurse",
            grafted: grafted?(each, roles) }
        end
      end

      def grafted?(limb, roles)
        return true if TreePlan::WORKED.include?(roles[limb.id]) || (limb.graft && limb.graft.fate != "lost")

        limb.standing_children.any? { |each| grafted?(each, roles) }
      end

      # Stretches that were found bent, damaged or decayed.
      def unsound(limb)
        limb.unsound_mm.map(&:to_f).each_slice(2).map { |from, to| { from_mm: from, to_mm: to } }
      end

      # The limb's diameter at a place on it, by the same taper the cut point uses.
      def diameter_at(limb, at_mm)
        base = section(limb)[:diameter_mm]
        # Beyond its end, where a graft has grown on, it is taken to be as thick as there.
        at = [at_mm.to_f, limb.length_mm.to_f].min
        measured = outer(limb) or return Core::Survey::Taper.diameter(base, limb.grown_mm, at, limb.orchard.rulebook)

        [base - (base - measured[:diameter_mm]) / measured[:at_mm] * at,
         limb.orchard.rulebook.value("reckoning.cut.thinnest").to_f].max
      end

      # Where along a limb each method for the end of a stub suits its thickness, and where best.
      #
      # @return [Hash{String=>Hash}] +works+ and +ideal+, each a stretch from the fork, or nil
      def method_stretches(limb)
        book = limb.orchard.rulebook
        base, length, measured = section(limb)[:diameter_mm], limb.length_mm.to_f, outer(limb)
        loss = measured ? (base - measured[:diameter_mm]) / measured[:at_mm] :
          Core::Survey::Taper.loss(base, limb.grown_mm, book)
        book.end_methods.to_h do |method|
          [method, %w[works ideal].to_h do |kind|
            range = book.value_or_nil("methods.#{method}.stock_#{kind}")
            [kind.to_sym, range && Core::Survey::Taper.stretch(base, loss, length, range)]
          end]
        end
      end

      # @param today [Date, nil] then what took here by this day is weighed in
      def methods(limb, stock_mm, scion_mm: nil, slipping: true, today: nil, place: "end")
        asked = method_question(limb, stock_mm, slipping: slipping, today: today)
        Core::Plan::Methods.reckon({ **asked, scion_mm: scion_mm, place: place }, rulebook: limb.orchard.rulebook)
      end

      # What the ranking of methods asks about a stub, but for the stick.
      def method_question(limb, stock_mm, slipping:, today: nil)
        orchard, species = limb.orchard, limb.tree.species
        { stock_mm: stock_mm, slipping: slipping, species: species, school: limb.tree.school,
          own: today ? orchard.success(today).by_method(species) : [] }
      end

      # As measured; else by its size and kind.
      #
      # @return [Float] mm
      def bark(limb, stock_mm)
        return limb.bark_mm.to_f if limb.bark_mm

        book = limb.orchard.rulebook
        species = limb.tree.species
        Core::Survey::Bark.call(diameter_mm: stock_mm, species: species, rough: limb.bark == "rough",
                                rulebook: book)[:bark_mm]
      end

      # @param method [String, nil] then no more than it takes
      def sticks(limb, stock_mm, practice: nil, method: nil)
        orchard = limb.orchard
        Core::Plan::Sticks.reckon(
          { wood_diameter_mm: [stock_mm - 2 * bark(limb, stock_mm), 1.0].max, **face_facts(limb),
            practice: practice || stick_practice(orchard, limb.tree.school, stock_mm, method), method: method },
          rulebook: orchard.rulebook
        )
      end

      # How sticks are set where nothing is decided.
      def stick_practice(orchard, school, stock_mm, method)
        Core::Plan::Sticks.proposed(orchard.rulebook.practice("sticks", school), stock_mm, method: method,
                                    rulebook: orchard.rulebook)
      end

      # On which faces of a limb's stub so many sticks sit: from north on an upright one, else from the upper side.
      #
      # @return [Array<Float>] degrees
      def faces(limb, count, method = nil)
        told = Core::Plan::Sticks.faces(count.clamp(1, limb.orchard.rulebook.value("reckoning.sticks.ring_most")),
                                        **face_facts(limb), method: method, rulebook: limb.orchard.rulebook)
        told[:bearings_deg] || told[:clock_deg]
      end

      # Whether a stub of it counts as upright: no side of it lies on top.
      def upright?(limb)
        Core::Near.at_least?(limb.rise_deg.to_f, limb.orchard.rulebook.value("reckoning.sticks.upright_from"))
      end

      def face_facts(limb)
        { rise_deg: limb.rise_deg.to_f, flat_deg: limb.flat_deg&.to_f, flat_one_side: true,
          bearing_deg: limb.bearing_deg&.to_f, wind_from_deg: limb.orchard.wind_from_deg }
      end

      # One, two or more sticks by a method, side by side.
      #
      # @param take [Float] of single sticks
      # What to do with a limb that broke or died back, the best first.
      #
      # @return [Array<Hash>] see Core::Plan::AfterBreak
      def after_break(limb, today)
        last = limb.orchard.last_days(today).regraft(limb.tree_id, limb.tree.species)
        left = limb.length_mm.to_f
        Core::Plan::AfterBreak.ways(
          diameter_mm: diameter_at(limb, left), left_mm: left, days_left: last && (last - today).to_i,
          branches_mm: limb.standing_children.map { |child| child.fork_mm.to_f },
          rulebook: limb.orchard.rulebook
        )
      end

      def stick_choice(limb, stock_mm, method, take)
        book = limb.orchard.rulebook
        Core::Plan::StickChoice.reckon(
          { diameter_mm: stock_mm, take: take, most_sticks: book.value("methods.#{method}.most_sticks"),
            upright: upright?(limb) },
          rulebook: book
        )[:choices]
      end

      def care(graft, today)
        CareSchedule.care(graft, today) || raise(Missing, "this graft is not looked after")
      end

      # @param row [Visit, Hash] a visit
      def visit(row)
        { on: row[:seen_on], buds: row[:buds], leaf_stalk: row[:leaf_stalk], callus: row[:callus],
          longest_shoot_mm: row[:longest_shoot_mm]&.to_f,
          verdict: row[:verdict], seal: row[:seal_state], wrap: row[:wrap_state],
          stock_shoots: row[:stock_shoots], pests: row[:pests], snapped: row[:snapped], fruit: row[:fruit] }
      end

      def closure(graft)
        first = graft.orchard.season.name_of(graft.grafted_on)
        readings = graft.tallies.select { |each| each.open_a_mm && each.open_b_mm }.map do |each|
          { season: each.season - first + 1, a_mm: each.open_a_mm.to_f, b_mm: each.open_b_mm.to_f }
        end
        Core::Tally::Closure.reckon({ stub_mm: graft.stub_mm.to_f, readings: readings,
                                      living: [graft.living_sticks, 1].max },
                                    rulebook: graft.orchard.rulebook)
      end

      # What the points of a tree follow from, besides the rulebook.
      #
      # @param limbs [Array<Limb>] those to be drawn
      def figure_facts(tree, limbs)
        placed = limbs.map { |limb| figure_limb(limb) }
        { trunk: trunk(tree, placed, placed[limbs.index(&:leader) || placed.size]), limbs: placed }
      end

      # How the head of a tree is shared out, by limb id.
      def canopy(limbs)
        limbs.empty? ? nil : canopy_of(canopy_limbs(limbs), [], limbs.first.orchard)
      end

      # The same with some of them cut.
      #
      # @param limbs [Array<Hash>] as canopy_limbs has them
      # @param cuts [Array<Hash>] +limb+ and +at_mm+
      def canopy_of(limbs, cuts, orchard)
        Core::Survey::Canopy.reckon({ limbs: limbs, cuts: cuts }, rulebook: orchard.rulebook)
      end

      # Limbs as the canopy takes them.
      def canopy_limbs(limbs)
        limbs.map do |limb|
          { id: limb.id, parent: limb.parent_id, diameter_mm: section(limb)[:diameter_mm],
            fork_at_mm: limb.parent_id ? limb.fork_mm.to_f : 0.0 }
        end
      end

      # What the survey of a tree tells: shares, balance, and what each limb offers itself for.
      def head(tree)
        limbs = tree.standing_limbs
        canopy = canopy(limbs) or return nil
        main = limbs.reject(&:parent_id).map { |limb| head_limb(limb, canopy[:shares][limb.id]) }
        orchard = tree.orchard
        nurses = nurses_wanted(orchard, main.size, tree.school)
        { shares: canopy[:shares],
          candidates: Core::Survey::Head.candidates(main, lowest_mm: tree.form == "wall-trained" ? 0 :
                                                    orchard.browse_mm, nurses: nurses, rulebook: orchard.rulebook) }
      end

      # @param limbs [Integer] that leave the trunk
      def nurses_wanted(orchard, limbs, school)
        Core::Survey::Head.nurses_wanted(limbs, orchard.rulebook.practice("nurses", school), orchard.rulebook)
      end

      def head_limb(limb, share)
        advice = StubAdvice.new(limb, planned: nil)
        { id: limb.id, share: share, bearing_deg: limb.leans_to_deg, fork_height_mm: limb.fork_height_mm,
          tip_height_mm: limb.tip_height_mm, cuttable: advice.cut[:feasible], own: advice.preferred?,
          stock_mm: advice.stock_mm, conflict: advice.cut[:conflict], damaged: !limb.damage.nil? }
      end

      def figure_limb(limb)
        { id: limb.id, parent: limb.parent_id, fork_mm: limb.fork_mm.to_f, bearing_deg: limb.bearing_deg.to_f,
          rise_deg: limb.rise_deg.to_f, length_mm: limb.length_mm.to_f, diameter_mm: section(limb)[:diameter_mm],
          tip_mm: (outer(limb) || limb.whole_mm) && diameter_at(limb, limb.length_mm) }
      end

      # The trunk ends where its leader begins.
      #
      # @param leader [Hash, nil] as it is placed
      def trunk(tree, limbs, leader)
        forks = limbs.reject { |each| each[:parent] }.map { |each| each[:fork_mm] }
        widest = limbs.map { |each| each[:diameter_mm] }.max || 60
        base = tree.trunk_girth_mm ? tree.trunk_girth_mm / Math::PI : widest * 1.8
        return { height_mm: leader[:fork_mm], base_mm: base.to_f, top_mm: leader[:diameter_mm] } if leader
        return { height_mm: tree.height_mm.to_f, base_mm: base.to_f, top_mm: base.to_f * 0.2 } if tree.to_tip?

        { height_mm: (forks.max || (tree.height_mm || 2000) / 2.0).to_f, base_mm: base.to_f,
          top_mm: [base.to_f * 0.8, widest].min }
      end
    end
  end
end
