# frozen_string_literal: true

module Vestry
  module Records
    # What was decided for one limb: its role, and if it is worked, where and how.
    class PlanLimb < Sequel::Model(DB[:plan_limbs])
      include Row
      include Deferred
      extend Known
      known(:technique) { Core::Rulebook.shipped.stub_methods }
      ROLES = %w[work later backup nurse renew lift].freeze
      many_to_one :plan
      many_to_one :limb
      many_to_one :variety

      # Whether everything the grafting day needs has been chosen, at a place that is there and stays.
      def complete?
        [cut_mm, technique, variety_id, sticks].none?(&:nil?) && !place_gone? && comes_off_with.nil?
      end

      # Whether its limb ends below the place by now: it broke, died back or was headed since, or was measured anew.
      def place_gone?
        return false if cut_mm.nil? || limb.length_mm.nil?

        Core::Plan::Soundness.beyond?(cut_mm, limb.length_mm, Core::Rulebook.shipped)
      end
      # Where it is cut, on the limb as it stands.
      def place_mm = ([cut_mm, limb.length_mm].compact.min if cut_mm && !place_gone?)

      # When a limb that is to come off, or to be headed back, was cut in its season, or lost what was to be cut.
      #
      # @return [Date, nil]
      def sawn_on
        return unless season && %w[lift renew].include?(role)

        @sawn_on ||= [LimbEvent.off_since(limb.orchard.season.span(season).begin, limb: limb_id, row: id)
          .min(:happened_on)]
        @sawn_on.first
      end

      # Tells that it was not, where that was read for many at once.
      def not_sawn = @sawn_on = [nil]

      # What is to be said of a limb that is not to be worked.
      #
      # @param planning [Integer] the season that is planned for now
      # @return [Hash] +role+, +season+, +sawn_on+, +wood_for+, +planning+ and +waits_for+, as #lift_waits has it
      def unworked(planning)
        { role: role, season: season, sawn_on: sawn_on, wood_for: wood_for(planning), planning: planning,
          waits_for: lift_waits(planning) }
      end

      # What the top of its limb waits for before it comes off: that the branch which takes over below it lives.
      #
      # @param planning [Integer] the season that is planned for now
      # @return [Hash, nil] +branch+ (a tag) and its +state+, see Core::Plan::TopOff; nil where it waits for nothing
      def lift_waits(planning)
        branch = taken_over_by or return

        state = branch_state(branch)
        { branch: branch.tag, state: state } if Core::Plan::TopOff.waits?(state, due: season.to_i <= planning)
      end

      # The season whose grafts the shoots of a limb that is headed back are for: the one after it was cut, or is to be.
      #
      # @return [Integer, nil] nil for any other
      def wood_for(planning)
        return unless role == "renew"

        (sawn_on ? limb.orchard.season.name_of(sawn_on) : [season, planning].compact.max) + 1
      end

      # Where its limb is cut off for it; nil where the head stays on, where all of it comes off at its fork, and where
      # it was sawn. What is headed back without a place of its own is by the usual share of its length.
      def head_cut_mm
        return if sawn_on

        case role
        when "nurse" then nil
        when "renew" then place_mm || PlanLimb.headed_back_mm(limb)
        when "lift" then place_mm
        else place_mm if Core::Rulebook.shipped.heads?(technique)
        end
      end

      # What is to be cut off below a limb: the one that it grows from, or one further down.
      #
      # @param planned [Hash{Integer=>PlanLimb}, nil] what is decided on its tree by limb, where that was read already
      # @return [PlanLimb, nil] what is decided for that one
      def self.cut_below(limb, planned = nil, seen = [])
        under = limb.parent
        return if under.nil? || seen.include?(under.id)

        row = planned ? planned[under.id] : under.planned
        row&.cuts_off_at?(limb.fork_mm) ? row : cut_below(under, planned, [*seen, under.id])
      end

      # What is to be cut off below a place on a limb: that limb itself, or what is cut below it.
      #
      # @param at_mm [Numeric] from its fork
      def self.cut_below_place(limb, at_mm, planned = nil)
        row = planned ? planned[limb.id] : limb.planned
        row&.cuts_off_at?(at_mm) ? row : cut_below(limb, planned)
      end


      # The same of this one's limb.
      def comes_off_with
        return if limb.parent_id.nil?

        @comes_off_with ||= [@cut_below ? @cut_below.call : PlanLimb.cut_below(limb)]
        @comes_off_with.first
      end

      # Tells that, where it was read for many at once.
      attr_writer :cut_below

      # Tells what is decided on its tree, by limb, where that was read for many at once.
      attr_writer :decided

      # The branch that leaves its limb next below where the top is to come off, and was grafted or is to be.
      #
      # @return [Limb, nil]
      def taken_over_by
        return unless role == "lift" && cut_mm && sawn_on.nil?

        below = limb.children.select { |each| !each.hidden? && each.fork_mm && each.fork_mm < cut_mm }.max_by(&:fork_mm)
        below if below && (below.graft || below.gone_on || TreePlan::WORKED.include?(decided_of(below)&.role))
      end

      def branch_state(branch)
        return "gone" if branch.gone_on
        return "unworked" if branch.graft.nil? || decided_of(branch)&.again?(branch.graft)

        branch.graft.fate
      end

      def decided_of(branch) = @decided ? @decided.call[branch.id] : branch.planned
      private :taken_over_by, :branch_state, :decided_of

      # How it is cut, as what stands on it is told of it.
      def cut_below_facts = { with: limb.tag, cut_mm: head_cut_mm&.to_f, season: season }

      # Whether its limb is still to be cut, below a place on it where another leaves it.
      #
      # @param at_mm [Numeric, nil] from its fork
      def cuts_off_at?(at_mm)
        return false if at_mm.nil? || sawn_on || (TreePlan::WORKED.include?(role) && !waits?)

        at = head_cut_mm || (0.0 if role == "lift")
        !at.nil? && at_mm >= at
      end

      # Where a limb is headed back to throw shoots.
      #
      # @return [Float] mm from its fork
      def self.headed_back_mm(limb) = Core::Wood::Heading.at(limb.length_mm, limb.orchard.rulebook)

      # Whether it was worked as it says, was lost, and was not decided again since.
      #
      # @param graft [Graft, nil] the latest of its limb
      def failed?(graft = limb.graft)
        return false unless graft && season && TreePlan::WORKED.include?(role) && graft.fate == "lost"

        graft.grafted_on >= graft.orchard.season.span(season).begin &&
          (after_graft_on.nil? || graft.grafted_on > after_graft_on)
      end

      # Whether its limb is to be worked again, decided since its latest graft was lost.
      def again?(graft, day = nil) = TreePlan::WORKED.include?(role) && decided_since?(graft, day)

      # Whether it says what becomes of its limb since the latest graft of that was lost: worked again, or another role.
      def decided_since?(graft, day = nil) = graft.fate(day) == "lost" && !failed?(graft)

      # Whether its limb waits to be worked: it carries no graft, or is to be worked again.
      def waits? = TreePlan::WORKED.include?(role) && (limb.graft.nil? || again?(limb.graft))

      # What is held for another row of its limb, sticks and days, is held for this one.
      #
      # @param other [PlanLimb, nil]
      def stand_for(other)
        return if other.nil?

        %i[stick_locks crew_fixed begun_sheets].each do |table|
          DB[table].where(plan_limb_id: other.id).update(plan_limb_id: id)
        end
      end

      # Locked as it is now.
      #
      # @return [PlanLimb]
      # @raise [Missing] where its plan was begun anew meanwhile
      def in_use!
        current = locked
        raise Missing, "its plan was begun anew" unless current && !current.hidden? && current.plan.superseded_at.nil?

        current
      end

      # Whether a limb was worked and lives so, or has come off: what its plan says of it is past.
      def self.done_on?(limb) = !limb.gone_on.nil? || (!limb.graft.nil? && limb.graft.fate != "lost")

      # What a plan says of a limb, out of sight or not: there is one row of each.
      def self.of(plan, limb) = first(plan_id: plan.id, limb_id: limb.id)

      # Many new ones at once: each names the same columns.
      #
      # @return [Array<Integer>] their numbers
      def self.add_all(rows)
        DB[:plan_limbs].multi_insert(rows.map { |row| row.merge(faces: Sequel.pg_array(row[:faces].to_a, :numeric)) },
                                     return: :primary_key)
      end
    end
  end
end
