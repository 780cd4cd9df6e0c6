# frozen_string_literal: true

module Vestry
  module Deeds
    # Decides what becomes of a limb. The tree's plan is begun with its first limb. What was
    # grafted and lives stays as it was done.
    module DecideLimb
      # @param values [Hash] +role+, +season+; for a limb to be worked also +cut+ (mm from the fork),
      #   +technique+, +variety+ (id), +practice+, +long+ (cut long in winter), +against_reason+; what is left out
      #   stays as it is decided
      # @param season [Integer] the one to plan for, where none is given or kept
      # @return [Records::PlanLimb]
      # @raise [Refused] when the cut cannot be made there, or does not suit the method unexplained, or
      #   the stock refuses the variety
      def self.call(limb, values, by:, season:, version: nil, why: nil)
        raise Refused, role: ["#{limb.label} has come off"] if limb.gone_on

        DB.transaction do
          plan = plan_of(limb, by)
          row = Records::PlanLimb.of(plan, limb)
          keep_done(limb)
          Ledger.restore(row, by: by) if row&.hidden?
          columns = columns(limb, values, row, season)
          next Ledger.change(row, columns, by: by, version: version, why: why) if row

          Ledger.add(Records::PlanLimb, columns.merge(orchard_id: limb.orchard_id, plan_id: plan.id, limb_id: limb.id),
                     by: by)
        end
      end

      # Leaves a limb undecided again: its plan says nothing of it.
      #
      # @raise [Refused]
      def self.leave(limb, by:)
        DB.transaction do
          limb.tree.locked
          keep_done(limb)
          row = limb.planned
          row && Ledger.hide(row.locked, by: by, why: "undecided again")
        end
      end

      # One plan is begun, whoever presses first.
      def self.plan_of(limb, by)
        tree = limb.tree.locked
        tree.plan || Ledger.add(Records::Plan, { orchard_id: limb.orchard_id, tree_id: tree.id }, by: by)
      end

      def self.keep_done(limb)
        limb.grafts(reload: true)
        return unless limb.graft && limb.graft.fate != "lost"

        raise Refused, role: ["#{limb.label} was grafted on #{SaidDay.of(limb.graft.grafted_on)} and stands; what " \
                              "was done stays in the plan"]
      end

      def self.columns(limb, values, row, season)
        kept = timing(values, row, season)
        return kept.merge(uncut(values, row)) unless Records::TreePlan::WORKED.include?(values[:role])

        if values.key?(:variety)
          kept = kept.merge(variety_id: values[:variety] &&
                            variety!(limb.orchard, values[:variety], limb.tree.species).id)
        end
        placed = with_place(limb, values, row)
        placed ? kept.merge(cut(limb, placed), after_lost(limb)) : kept
      end

      # What is said of the place with what is decided of it already; nil where nothing is said.
      #
      # @raise [Refused] where a cut or a method is said without the other, and that is not decided either
      def self.with_place(limb, values, row)
        said = values.slice(:technique, :cut, :practice, :long, :long_cut)
        return if said.empty?

        all = { **(row ? decided_place(limb, row) : {}), **said, against_reason: reason(values, row) }.compact
        raise Refused, cut: ["is missing: a method is kept with its place"] unless all[:cut]
        raise Refused, technique: ["is missing: a place is kept with its method"] unless all[:technique]

        all
      end

      def self.decided_place(limb, row)
        practice = Records::StubAdvice.new(limb, planned: row).practice if row.sticks
        { technique: row.technique, cut: row.cut_mm&.to_f, long: !row.long_cut_mm.nil?,
          long_cut: row.long_cut_mm&.to_f, practice: practice }
      end

      # Why a place or a method is kept against the rulebook is said of that one alone.
      def self.reason(values, row)
        values.fetch(:against_reason) { row&.against_reason unless values[:technique] || values[:cut] }
      end

      # Where it was to be cut for a graft is not where it comes off, or is headed back.
      def self.uncut(values, row)
        off = %w[lift renew].include?(values[:role])
        { long_cut_mm: nil, **(off && row&.technique ? { cut_mm: nil, stock_mm: nil } : {}) }
      end

      # What is decided with a place to cut is decided knowing what was lost there.
      def self.after_lost(limb) = limb.graft ? { after_graft_on: limb.graft.grafted_on } : {}

      # Where it is cut and how it is set.
      def self.cut(limb, values)
        stock, reason = check_cut(limb, values)
        sticks = Records::CoreInputs.sticks(limb, stock, practice: values[:practice], method: values[:technique])
        { technique: values[:technique], cut_mm: values[:cut].round(1), stock_mm: stock.round(1),
          sticks: sticks[:count], long_cut_mm: long_cut(limb, values),
          faces: sticks[:bearings_deg] || sticks[:clock_deg], against_reason: reason }
      end

      # A limb for later waits for a season after this one; one to be worked now does not.
      def self.timing(values, row, season)
        wanted = values[:season] || row&.season || season
        wanted = [wanted, season + 1].max if values[:role] == "later" && !values[:season]
        wanted = season if values[:role] == "work" && row&.role_in(season) == "later" && !values[:season]
        # What comes off, or is headed back, waits for no season that went by.
        wanted = [wanted, season].max if %w[lift renew].include?(values[:role]) && !values[:season]
        { role: Records::Deferred.kept(row, values[:role], wanted, season), season: wanted }
      end

      def self.long_cut(limb, values)
        return nil unless values[:long] && limb.orchard.rulebook.heads?(values[:technique])

        long = values[:long_cut] || Core::Plan::LongCut.at(values[:cut], limb.length_mm, limb.orchard.rulebook)
        units = limb.orchard.units
        unless long > values[:cut] && long < limb.length_mm
          raise Refused, long_cut: ["lies beyond the fresh cut and on the limb: " \
                                    "from #{Core::Measure.say(values[:cut], units)} " \
                                    "to #{Core::Measure.say(limb.length_mm, units)}"]
        end

        long.round(1)
      end

      # The variety, when it may stand on this stock.
      #
      # @raise [Refused]
      def self.variety!(orchard, id, stock)
        variety = orchard.variety!(id)
        wrong = against_variety(orchard, variety, stock)
        raise Refused, variety: [wrong] if wrong

        variety
      rescue Records::Missing
        raise Refused, variety: ["is not in this orchard's register"]
      end

      # Why a variety cannot be planned on a stock, in a sentence; nil when it can.
      def self.against_variety(orchard, variety, stock)
        pair = orchard.rulebook.compatibility(stock, variety.species)
        if pair["value"] == "refused"
          return "#{variety.name} is #{variety.species}, which #{stock} refuses: #{pair['why']}"
        end

        if Records::VarietyFit.unpermitted?(variety)
          "#{variety.name} is protected and no permission is recorded: record it in the register first"
        end
      end

      # The diameter at the cut, and the reason given where the rulebook speaks against it.
      def self.check_cut(limb, values)
        at = values[:cut]
        units = limb.orchard.units
        if at >= limb.length_mm && !sawn_there?(limb, at)
          raise Refused, cut: ["is beyond the limb's end; it is #{Core::Measure.say(limb.length_mm, units)} long"]
        end

        stock = Records::CoreInputs.diameter_at(limb, at)
        against = against(limb, values, at, stock)
        reason = values[:against_reason].to_s.strip
        raise Refused, cut: [against], against_reason: ["say why, and it is kept so"] if against && reason.empty?

        [stock, against && reason]
      end

      # Whether it is the place that is planned, at which the limb was sawn beforehand.
      def self.sawn_there?(limb, at)
        place = limb.planned&.place_mm
        !place.nil? && Core::Near.within?(at.to_f, place.to_f, place.to_f)
      end

      def self.against(limb, values, at, stock)
        misfit = SoundGraft.misfit(limb, technique: values[:technique], stub_mm: stock) || dead_there(limb, at)
        return misfit if misfit

        found = Records::CoreInputs.cut_point(limb, values[:technique])
        names = broken(found, at) + inside(found, at)
        return nil if found[:feasible] && names.empty?

        units = limb.orchard.units
        "#{Core::Measure.say(at, units)} is #{names.uniq.map { |name| BROKEN.fetch(name) }.join(' and ')}" \
          "#{clear_words(found, units)}."
      end

      # The stub of a graft that was lost is cut back to fresh wood.
      def self.dead_there(limb, at)
        fresh = Records::CoreInputs.fresh_to(limb)
        return if fresh.nil? || Core::Near.at_most?(at.round, fresh.ceil)

        "the graft of #{SaidDay.of(limb.graft.grafted_on)} died there: cut at " \
          "#{Core::Measure.say(fresh, limb.orchard.units)} or lower, to fresh wood"
      end

      BROKEN = { "clearance" => "too near the fork", "browse" => "within reach of the animals",
                 "reach" => "above your reach", "diameter" => "a diameter the method does not work",
                 "nurse" => "not clear above its nurse", "branches" => "too near a branch's fork",
                 "grafted" => "below its branch that is grafted, or is to be",
                 "unsound" => "in unsound wood", "stub" => "not clear of the stub that died" }.freeze
      private_constant :BROKEN

      # The limits that a place, to the millimetre, does not keep.
      def self.broken(found, at)
        found[:limits].reject do |limit|
          limit[:from_mm] && Core::Near.within?(at.round, limit[:from_mm].floor, limit[:to_mm].ceil)
        end.map { |limit| limit[:name] }
      end

      # The gaps that a place lies in: forks of branches and unsound wood.
      def self.inside(found, at)
        found[:gaps].select { |gap| at > gap[:from_mm].ceil && at < gap[:to_mm].floor }.map { |gap| gap[:name] }
      end

      def self.clear_words(found, units)
        return unless found[:feasible]

        "; #{Core::Measure.say(found[:from_mm], units)} to #{Core::Measure.say(found[:to_mm], units)} is clear"
      end
      private_class_method :columns, :uncut, :with_place, :decided_place, :reason, :cut, :timing, :long_cut, :check_cut,
                           :against, :keep_done, :broken, :inside, :after_lost, :dead_there, :clear_words, :sawn_there?
    end
  end
end
