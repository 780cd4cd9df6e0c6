# frozen_string_literal: true

module Vestry
  module Drawings
    # What a planned limb is to be cut for.
    CUT_ROLES = %w[work backup later lift renew].freeze

    # How a limb stands in a drawing: its role, where it is or will be cut, what sits on it.
    # +coming+ marks one drawn as it will be once it is worked; +falls+ one that comes off with the
    # limb it grows from; +gone+ one that will have been lifted.
    # +seat_mm+ is where something is set into its side, and its head stays on.
    # +shoot_mm+ is how far a graft reaches, and +thick_mm+ how thick it was counted above its union.
    # +decided_since+ says that its graft was lost and something else is decided since, and +again_mm+ where it is cut
    # for that.
    DrawnLimb = Struct.new(:limb, :role, :cut_mm, :graft, :fate, :shoot_mm, :thick_mm, :falls, :coming, :gone,
                           :stick_count, :seat_mm, :again_mm, :decided_since, keyword_init: true) do
      # Every limb of a tree that still stands.
      #
      # @param proposed [Hash{Integer=>Float}] cuts by limb id that are not yet decided
      # @param after [Integer, nil] draws the tree as it will be once this season's work is done
      # @param year [Integer, nil] draws it as it stood at the end of a past season, or will by a coming one
      # @param planning [Integer] the season that is planned for now
      def self.all(tree, planning:, proposed: {}, after: nil, year: nil, now: nil)
        return in_year(tree, year, now, planning) if year && year != now

        planned = (tree.plan&.plan_limbs || []).to_h { |each| [each.limb_id, each] }
        limbs = tree.standing_limbs
        stands = limbs.to_h do |limb|
          [limb.id, of(limb, planning: planning, planned: planned[limb.id], cut_mm: proposed[limb.id], after: after)]
        end
        stands.each_value { |stand| stand.falls = falls?(stand, stands) }
        after ? stands.values.reject { |stand| stand.gone || (stand.falls && fallen?(stand, stands)) } : stands.values
      end

      # The past from what was measured by then; the years to come with what is planned, grown back at
      # the pace of grafts here.
      def self.in_year(tree, year, now, planning)
        season = tree.orchard.season
        return grown(all(tree, planning: planning, after: year), tree, year) if year > now

        stood(tree, year, season).map do |limb|
          graft = limb.grafts.select { |each| season.name_of(each.grafted_on) <= year }.last
          stand = of(limb, planning: planning, planned: nil, graft: graft, year: year)
          stand.fate = (graft.fate(season.span(year).max) == "lost" ? "lost" : "took") if graft
          stand
        end
      end

      def self.stood(tree, year, season)
        Records::LimbEvent.limbs_on(tree, season.span(year).max).select do |limb|
          season.name_of(limb.surveyed_on) <= year + 1 && limb.outlasted?(year)
        end
      end

      # How far a graft reaches, by what was measured of it until the end of a season; nil where nothing was.
      def self.reach_mm(graft, counts, year)
        season = graft.orchard.season.method(:name_of)
        seen = graft.visits.map { |each| [season[each.seen_on], each.longest_shoot_mm] }.select { |on, _| on <= year }
        told = seen + counts.map { |each| [each.season, each.growth_mm] }
        grown = told.select(&:last).sort.to_h.values.map(&:to_f)
        grown.empty? ? nil : Core::Tally::Growth.reach(grown, graft.orchard.rulebook)
      end

      # What was counted of a graft by the end of a season, as it is drawn.
      def self.of_graft(graft, year)
        counts = graft.tallies.select { |each| each.season <= year }
        { graft: graft, fate: graft.fate, shoot_mm: reach_mm(graft, counts, year),
          thick_mm: counts.filter_map(&:above_mm).last&.to_f,
          stick_count: [counts.filter_map(&:sticks_alive).last || graft.sticks, 1].max }
      end

      # The same stands once they have grown until a year.
      def self.grown(stands, tree, year)
        stands.each do |stand|
          stand.grow(year, tree) if stand.worked? && stand.fate != "lost" && stand.cut_mm
        end
      end

      def self.falls?(stand, stands)
        under = stands[stand.limb.parent_id] or return false
        falls?(under, stands) || (under.cut_mm && stand.limb.fork_mm >= under.cut_mm) ||
          (under.role == "lift" && under.cut_mm.nil?)
      end

      # Whether what it grows from has come off by then.
      def self.fallen?(stand, stands)
        under = stands[stand.limb.parent_id] or return false
        off = (under.coming || under.graft) && under.cut_mm
        under.gone || fallen?(under, stands) || (off && stand.limb.fork_mm >= under.cut_mm)
      end

      # From the facts of a limb, its plan and its latest graft.
      #
      # @param cut_mm [Float, nil] a cut that is proposed and not yet decided
      # @param year [Integer] of what was counted later nothing is drawn
      def self.of(limb, planning:, planned: limb.planned, graft: limb.graft, cut_mm: nil, after: nil, year: 9999)
        planned = nil if came_off?(planned)
        decided_since = graft && planned&.decided_since?(graft)
        due = after && planned&.season && planned.season <= after
        # What was lost is not there any more once that is done.
        graft = nil if decided_since && due
        stand = new(limb: limb, role: planned&.role_in(planning),
                    **(graft ? of_graft(graft, year) : { stick_count: planned&.sticks || 1 }),
                    cut_mm: cut_of(graft, planned, cut_mm, after)&.to_f, seat_mm: seat_of(graft, planned)&.to_f,
                    decided_since: decided_since, again_mm: (planned.head_cut_mm&.to_f if decided_since && graft))
        due && graft.nil? ? stand.come(planned) : stand
      end

      # Whether what was to come off above what takes over has.
      def self.came_off?(planned) = planned&.role == "lift" && !planned.sawn_on.nil?

      # Where it is or will be cut off: by its graft, else as it is proposed or planned. What is set into its side
      # cuts nothing off.
      def self.cut_of(graft, planned, proposed, after)
        return graft.cut_off_at_mm if graft&.cut_mm

        (after && planned&.head_cut_mm) || proposed ||
          (planned if CUT_ROLES.include?(planned&.role))&.head_cut_mm
      end

      # Where something is set into its side while its head stays on.
      def self.seat_of(graft, planned)
        return graft.cut_mm || 0 if graft && !Core::Rulebook.shipped.heads?(graft.technique)

        worked = graft.nil? && Records::TreePlan::WORKED.include?(planned&.role)
        planned.place_mm if worked && planned.head_cut_mm.nil?
      end
      private_class_method :stood, :came_off?, :cut_of, :seat_of

      # The same once its work is done.
      def come(planned)
        case planned.role
        when "work", "backup", "later" then self.coming = !(cut_mm || seat_mm).nil?
        when "lift" then cut_mm ? self.coming = true : self.gone = true
        when "renew" then self.coming = !cut_mm.nil?
        end
        self
      end

      # As thick as it will have grown by a year, and as long, of what was cut, as it is thick, of its stub.
      def grow(year, tree)
        since, stub = regrowth(tree)
        told = Core::Plan::Regrowth.at(year - (since || year), stub, rulebook: tree.orchard.rulebook)
        self.shoot_mm = [shoot_mm.to_f, cut_off_mm * Math.sqrt(told[:share])].max
        self.thick_mm = [thick_mm.to_f, [told[:diameter_mm], stub[:stub_mm]].min / Math.sqrt(stick_count)].max
      end

      # How much of its length comes off or came off.
      def cut_off_mm = limb.length_mm.to_f - cut_mm

      # Since when it grows back, and into what, as Regrowth takes it.
      def regrowth(tree)
        return [tree.orchard.season.name_of(graft.grafted_on), Records::CoreInputs.regrowth(graft)] if graft

        [limb.planned&.season, { stub_mm: Records::CoreInputs.diameter_at(limb, cut_mm),
                                 shoot_mm: Core::Plan::Vigour.ordinary(tree.species, tree.orchard.rulebook) }]
      end

      # Where it is still to be cut off; nil where it is not.
      def to_cut_mm
        return if falls || coming

        graft ? again_mm : cut_mm
      end

      # Whether sticks sit on its end: not those of a graft that was lost, where the limb has another role since.
      def worked?
        to_be = Records::TreePlan::WORKED.include?(role)
        graft ? !decided_since || to_be : coming && to_be
      end

      # The word that names its state: the style sheet and the text equivalent both use it.
      def state
        return decided_since && !Records::TreePlan::WORKED.include?(role) ? role : "lost" if fate == "lost"
        return "grafted" if graft
        return "coming" if coming && worked?

        role || "open"
      end
    end
  end
end
