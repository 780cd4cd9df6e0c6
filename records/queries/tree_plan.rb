# frozen_string_literal: true

module Vestry
  module Records
    # A tree's plan as it stands: each limb's role, what each season takes of the head, what the
    # roots make of it, and what is wrong with it. Limbs nothing was decided about stand in it
    # with the role they offer themselves for.
    class TreePlan
      WORKED = Core::Plan::Soundness::WORKED

      attr_reader :tree, :orchard, :limbs, :head, :today

      # @param today [Date]
      # @param school [String, nil] in place of the plan's own
      # @param planned [Array<PlanLimb>] what is decided, in place of the plan in use
      # @param left_alone [Array<Integer>] limbs, by id, that stay as they are while nothing is decided of them
      # @param head [Hash, nil] see CoreInputs.head, where it is known
      def initialize(tree, today, school: nil, planned: tree.plan&.plan_limbs || [], left_alone: [],
                     head: CoreInputs.head(tree))
        @tree = tree
        @orchard = tree.orchard
        @today = today
        @limbs = tree.standing_limbs
        @school = school || tree.school
        @planned = planned.to_h { |each| [each.limb_id, each] }
        @left_alone = left_alone
        @head = head
        @outlooks = {}
      end

      def any? = !@head.nil?
      def first_season = @first_season ||= @orchard.season_to_plan(@today)
      def planned(limb) = @planned[limb.id]
      def decided?(limb) = @planned.key?(limb.id)
      def decided_any? = @planned.any?

      # The same once anything is decided: the other limbs stay as they are, and are neither worked nor taken off.
      #
      # @param looked_at [Limb, nil] one that counts with the role it offers itself for all the same
      # @return [TreePlan] this one, where there is no other limb
      def as_decided(looked_at = nil)
        rest = decided_any? ? @limbs.reject { |limb| decided?(limb) || limb.id == looked_at&.id }.map(&:id) : []
        return self if rest == @left_alone

        (@as_decided ||= {})[rest] ||= TreePlan.new(@tree, @today, school: @school, planned: @planned.values,
                                                    left_alone: rest, head: @head)
      end

      # Decided, else as the limb offers itself. Branches go with their limb unless decided.
      def role(limb)
        @planned[limb.id]&.role_in(first_season) ||
          (@head[:candidates][limb.id]&.fetch(:role) unless @left_alone.include?(limb.id))
      end
      def reasons(limb) = @head[:candidates][limb.id]&.fetch(:reasons) || []
      def season(limb) = @planned[limb.id]&.season || first_season
      def outlook(limb)
        @outlooks[limb.id] ||= StubAdvice.new(limb, planned: @planned[limb.id], school: @school, today: @today)
      end

      # Limbs still to be worked: that carry no graft yet, or are decided again since theirs was lost.
      def work = @work ||= @limbs.select { |limb| WORKED.include?(role(limb)) && (limb.graft.nil? || again?(limb)) }

      # Those of them whose head is still on.
      def fresh_work = work.select { |limb| fresh?(limb) }

      # Whether its graft was lost and it is to be worked again.
      def again?(limb) = !limb.graft.nil? && @planned[limb.id]&.again?(limb.graft, @today) == true

      # Whether it is as if nothing had been grafted on it: what was lost in its side left its head on.
      def fresh?(limb) = limb.graft.nil? || (again?(limb) && !limb.graft.head_off?)
      def nurses = @limbs.select { |limb| role(limb) == "nurse" }
      def lifted = to_saw("lift")
      def renewed = to_saw("renew")
      def grafted = @limbs.reject { |limb| fresh?(limb) }
      def seasons = work.map { |limb| season(limb) }.uniq.sort

      # What each limb takes with it when it is cut where it is planned, or best cut; all that it carries where it is
      # not.
      def share(limb) = shares.fetch(limb.id)
      def shares = @shares ||= @limbs.to_h { |limb| [limb.id, removed([limb])] }

      # The same as it is taken on the grafting day: nothing by a method that leaves the head on.
      def taken_by(limb) = heads?(limb) ? share(limb) : 0.0

      # What a limb takes with it when it is cut at a place that is only looked at.
      def share_cut_at(limb, at_mm)
        CoreInputs.canopy_of(sections, [{ limb: limb.id, at_mm: at_mm.to_f }], @orchard)[:removed]
      end

      # The share of the head that cutting these limbs takes, each branch once.
      def removed(limbs)
        (@removed ||= {})[limbs.map(&:id)] ||= CoreInputs
          .canopy_of(sections, limbs.map { |limb| { limb: limb.id, at_mm: cut_mm(limb) } }, @orchard)[:removed]
      end

      # Cut in a season: worked, lifted or headed back in it. What is worked again has its head off.
      def cut_in(season)
        cut.select { |limb| season(limb) == season || (season(limb) < season && season == first_season) }
      end

      # All that are cut for the first time.
      def cut = (work + lifted + renewed).uniq.reject { |limb| limb.graft&.head_off? }

      # What a season takes.
      def taken(season)
        before = cut.select { |limb| season(limb) < season && season != first_season }
        removed(headed((before + cut_in(season)).uniq)) - removed(headed(before))
      end

      # Whether its head is cut off: what is set into its side leaves it on.
      def heads?(limb)
        return limb.graft.head_off? unless fresh?(limb)

        @orchard.rulebook.heads?((outlook(limb).technique if WORKED.include?(role(limb))))
      end

      def removed_by_season = seasons_touched.to_h { |season| [season, taken(season)] }
      def seasons_touched
        cut.map { |limb| [season(limb), first_season].max }.uniq.sort
      end

      # The head that feeds the roots once a season's cuts are made. What was or will be grafted
      # before counts with what it has grown back by then.
      #
      # @param made [Hash{Limb=>Integer}] limbs worked by then, each with its season
      # @param off [Array<Limb>] limbs lifted or headed back by then
      def kept(season, made: work.select { |limb| season(limb) <= season }.to_h { |limb| [limb, season(limb)] },
               off: (cut & (lifted + renewed)).select { |limb| season(limb) <= season })
        gone = removed((headed(made.keys) + off + headed(grafted)).uniq)
        (1 - gone + grown_back(season, made, off)).clamp(0.0, 1.0)
      end

      def vigour(season, stubs: work.count { |limb| season(limb) == season }, kept: kept(season))
        stay = staying(season)
        heights = work.select { |limb| season(limb) == season }.filter_map { |limb| outlook(limb).height_mm }
        leaf = stay.map { |limb| { share: share_left(limb), from_mm: limb.fork_height_mm, to_mm: limb.tip_height_mm } }
        Core::Plan::Vigour.reckon({ kept: kept, stubs: stubs, ordinary_mm: ordinary_mm,
                                    above: heights.map { |each| Core::Survey::Head.above(leaf, each) }.max || 0.0,
                                    largest_kept: leaf.map { |each| each[:share] }.max || 0.0 },
                                  rulebook: @orchard.rulebook)
      end

      # The first-year shoot to expect of a limb's graft, with what its season keeps of the head.
      def shoot_mm(limb) = (@shoots ||= {})[season(limb)] ||= vigour(season(limb))[:shoot_mm]

      # A year's shoot of an unpruned tree of this kind.
      def ordinary_mm = Core::Plan::Vigour.ordinary(@tree.species, @orchard.rulebook)

      # The tree as the ten-season comparison takes it. Each limb counts with what it takes beyond
      # what was cut before it, so that nothing counts twice.
      #
      # @param seasons [Hash{Integer=>Integer}] a season by limb id, counted from the first
      # @param shoots [Array<Float>, nil] first-year shoots of these seasons; nil for those of the tree's own plan
      def projected(name, seasons = work.to_h { |limb| [limb.id, to_come(limb)] }, shoots: nil)
        when_cut = ->(limb) { season_cut(limb, seasons) }
        shares = taken_beyond((grafted + work + lifted).uniq.sort_by.with_index do |limb, place|
          [when_cut[limb], place]
        end)
        lifts, stubs = shares.keys.partition { |limb| !limb.graft && role(limb) == "lift" }
        { name: name, lifts: lifts.map { |limb| { share: shares[limb], season: when_cut[limb] } },
          work: stubs.map { |limb| projected_limb(limb, shares[limb], when_cut[limb], shoots) } }
      end

      # In which season from the first it is cut, or was.
      def season_cut(limb, seasons)
        fresh?(limb) ? seasons.fetch(limb.id) { to_come(limb) } :
          @orchard.season.name_of(limb.graft.grafted_on) - first_season
      end

      # In how many seasons from the first it is worked.
      def to_come(limb) = [season(limb) - first_season, 0].max

      # What is wrong with the plan, worst first.
      def faults
        return [] unless any?

        Core::Plan::Soundness.of(limbs: @limbs.map { |limb| fact(limb) } + gone_facts, nurses_wanted: nurses_wanted,
                                 cap: @tree.plan&.cap&.to_f,
                                 removed: decided_any? ? as_decided.removed_by_season : {}, vigour: hardest,
                                 few: @orchard.rulebook.practice("varieties", @school) == "few",
                                 trained: @tree.trained?, wounds: wounds, stretches: stretches_coming_off,
                                 rulebook: @orchard.rulebook)
      end

      # That its trunk is to be mended first, where it is.
      #
      # @return [Hash, nil] see Core::Plan::Soundness
      def bare_trunk
        Core::Plan::Soundness.stripped(wounds, @limbs.map { |limb| { grafted: !limb.graft.nil? } }, @orchard.rulebook)
          .first
      end

      # The season whose shoots are driven hardest; nil while nothing is decided.
      def hardest
        return unless decided_any?

        as_decided.then { |it| it.seasons.map { |each| it.vigour(each) }.max_by { |each| each[:shoot_mm] } }
      end

      # What is to be minded about a limb before it is cut.
      #
      # @return [Array<Hash>] see Core::Plan::LimbWays
      def ways(limb)
        facts = { diameter_mm: outlook(limb).stock_mm || CoreInputs.section(limb)[:diameter_mm],
                  length_mm: limb.length_mm.to_f, taper: !limb.outer_mm.nil?, branches: branches(limb),
                  only: only?(limb), trained: @tree.trained?, shoot_mm: ordinary_mm,
                  donor: @orchard.rulebook.method_fact(outlook(limb).technique, "donor") == true,
                  method: outlook(limb).technique, bleeds: bleeding.any? }
        Core::Plan::LimbWays.of(facts, species: @tree.species,
                                       cover: @orchard.rulebook.practice("cover", @school), rulebook: @orchard.rulebook)
      end

      def branches(limb)
        limb.standing_children.map do |each|
          { tag: each.tag, diameter_mm: CoreInputs.section(each)[:diameter_mm] }
        end
      end

      def only?(limb) = @limbs == [limb]
      def bleeding = @bleeding ||= @orchard.bark_forecast(@today).bleeding([@tree])

      def nurses_wanted = CoreInputs.nurses_wanted(@orchard, @limbs.count { |limb| limb.parent_id.nil? }, @school)

      private

      # Those that are still to come off, or to be headed back.
      def to_saw(role) = @limbs.select { |limb| role(limb) == role && @planned[limb.id]&.sawn_on.nil? }

      # Where its trunk was stripped, as Soundness takes it.
      def wounds
        @wounds ||= @tree.wounds.select { |wound| wound.found_on <= @today }.map do |wound|
          WoundReport.new(wound, @today).then do |told|
            { share: told.share, course: told.course, state: told.mending[:state] }
          end
        end
      end

      # Limbs of the trunk that keep their old wood once a season's cuts are made.
      def staying(season)
        off = cut.select { |limb| season(limb) <= season }
        @limbs.reject { |limb| limb.parent_id || headed([limb] & (off + grafted)).any? }
      end

      # Those of some limbs whose heads are cut off.
      def headed(limbs) = limbs.select { |limb| heads?(limb) }

      # Of the head that stood before the work, what a limb carries with its branches.
      def share_left(limb) = @head[:shares].fetch(limb.id)

      # What each limb takes of the head beyond what those before it take.
      def taken_beyond(limbs)
        gone, before = [], 0.0
        limbs.to_h do |limb|
          now = removed(gone << limb)
          [limb, now - before].tap { before = now }
        end
      end

      def sections = @sections ||= CoreInputs.canopy_limbs(@limbs)

      def cut_mm(limb)
        made = limb.graft unless fresh?(limb)
        return made.cut_mm.to_f if made && made.cut_mm && (made.head_off? || WORKED.include?(role(limb)))
        return unworked_cut_mm(limb) unless WORKED.include?(role(limb))

        outlook(limb).at_mm || 0.0
      end

      # Where what is not worked is cut; at its fork where all of it counts.
      def unworked_cut_mm(limb)
        row = @planned[limb.id]
        return 0.0 if row&.sawn_on

        { "lift" => row&.cut_mm, "renew" => row&.cut_mm || PlanLimb.headed_back_mm(limb) }[role(limb)].to_f
      end

      def projected_limb(limb, share, season, shoots)
        again = again?(limb)
        made = { id: limb.id, share: share, season: again ? to_come(limb) : season, headed: again && !fresh?(limb) }
        if limb.graft && !again
          return made.merge(take: limb.graft.fate == "lost" ? 0.0 : 1.0, sticks: limb.graft.sticks,
                            **CoreInputs.regrowth(limb.graft))
        end

        made.merge(to_come_back(limb, shoots&.at(made[:season])))
      end

      def to_come_back(limb, shoot_mm)
        outlook = outlook(limb)
        { take: outlook.stub_take, sticks: outlook.stick_count, minutes: outlook.minutes,
          stub_mm: outlook.stock_mm || CoreInputs.section(limb)[:diameter_mm], shoot_mm: shoot_mm || shoot_mm(limb) }
      end

      # What grafts have grown back of the head by a season.
      def grown_back(season, made, off)
        headed(grafted).sum { |limb| share(limb) * regrown(limb, season) } +
          made.group_by(&:last).select { |worked, _| worked < season }.sum do |worked, limbs|
            expected(headed(limbs.map(&:first)), driven(worked, made, off), season - worked)
          end
      end

      # What is expected to stand again on limbs, so many summers after they were worked.
      def expected(limbs, shoot_mm, summers)
        limbs.sum { |limb| outlook(limb).then { |o| share(limb) * o.stub_take * back(o.stock_mm, shoot_mm, summers) } }
      end

      def regrown(limb, season)
        return 0.0 if limb.graft.fate == "lost"

        Core::Plan::Regrowth.at(season - 1 - @orchard.season.name_of(limb.graft.grafted_on),
                                CoreInputs.regrowth(limb.graft), rulebook: @orchard.rulebook)[:share]
      end

      # The first-year shoots of a season in which some of these limbs are worked.
      def driven(season, made, off)
        fed = kept(season, made: made.select { |_, worked| worked <= season },
                           off: off.select { |limb| season(limb) <= season })
        vigour(season, stubs: made.count { |_, worked| worked == season }, kept: fed)[:shoot_mm]
      end

      # Of what a stub carried, what stands on it again so many summers after it was grafted.
      def back(stub_mm, shoot_mm, summers)
        return 0.0 unless stub_mm

        Core::Plan::Regrowth.at(summers - 1, { stub_mm: stub_mm, shoot_mm: shoot_mm },
                                rulebook: @orchard.rulebook)[:share]
      end

      # Bare stretches to be filled on wood that is to be cut off.
      def stretches_coming_off
        standing = @tree.standing_sites.map(&:id)
        rows = @tree.plan ? @tree.plan.plan_sites.select { |row| !row.hidden? && standing.include?(row.site_id) } : []
        rows.filter_map do |row|
          with = row.comes_off_with(@planned)
          { limb: row.site.limb_id, tag: row.site.tag, comes_off: with.cut_below_facts } if with
        end
      end

      def fact(limb)
        row = @planned[limb.id]
        facts = { id: limb.id, tag: limb.tag, parent: limb.parent_id, role: row&.role, share: shares[limb.id],
                  season: row&.season, gone: false, **grafted_fact(limb), length_mm: limb.length_mm.to_f,
                  above: row&.role == "lift" && !row.cut_mm.nil?,
                  comes_off: PlanLimb.cut_below(limb, @planned)&.cut_below_facts,
                  waits_for: row && lift_waits(row) }
        return facts unless row && WORKED.include?(row.role)

        facts.merge(overdue: overdue?(row), **variety_facts(row.variety), **cut_facts(limb, row))
      end

      def lift_waits(row)
        row.decided = -> { @planned }
        row.lift_waits(first_season)
      end

      # What needs no bark that slips can be set on while a later season is planned for.
      def overdue?(row)
        !row.season.nil? && row.season < first_season && !@orchard.stub_windows(@today).in_time?(row)
      end

      def grafted_fact(limb) = { grafted: !limb.graft.nil?, again: again?(limb) }

      def variety_facts(variety)
        return { variety: nil } unless variety

        { variety: variety.name, variety_vigour: variety.vigour, unpermitted: VarietyFit.unpermitted?(variety),
          compatibility: @orchard.rulebook.compatibility(@tree.species, variety.species) }
      end

      def cut_facts(limb, row)
        at = row.cut_mm&.to_f
        { height_mm: outlook(limb).height_mm, cut_mm: at, conflict: at ? [] : outlook(limb).cut[:conflict],
          stock_then_mm: row.stock_mm&.to_f,
          stock_now_mm: row.place_mm && CoreInputs.diameter_at(limb, row.place_mm) }
      end

      def gone_facts
        @tree.limbs.select(&:gone_on).filter_map do |limb|
          row = @planned[limb.id]
          if row
            { id: limb.id, tag: limb.tag, role: row.role, share: 0.0, season: row.season, gone: true,
              grafted: !limb.graft.nil? }
          end
        end
      end
    end
  end
end
