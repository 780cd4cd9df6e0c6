# frozen_string_literal: true

module Vestry
  module Records
    # An orchard's planned limbs as Core::Plan::Allotment takes them: what each is worth by its tree, what it takes, and
    # the wood that there is.
    class AllotmentInput
      # A limb that is allotted: its plan's row, and the season of it that stands.
      PlannedLimb = Struct.new(:row, :season, keyword_init: true)

      # @param wish [Hash] +seasons+, +hours+ (grafter-hours by season, empty for enough), +more+ (sticks by id of the
      #   variety), +late+ (whether springs come late, and leave fewer hours)
      def initialize(orchard, today, wish)
        @orchard = orchard
        @today = today
        @wish = wish
        @first = orchard.season_to_plan(today)
      end

      attr_reader :first

      # @return [Hash] for Core::Plan::Allotment
      def question
        { trees: trees, seasons: seasons, horizon: @orchard.rulebook.value("reckoning.allot.horizon"), wood: wood,
          minutes: minutes }
      end

      def late? = @wish.fetch("late", false)

      # What a late spring leaves of the hours of a middling one, by the kinds that are planned.
      #
      # @return [Float] 0..1
      def late_share
        planned.values.map { |row| row.limb.tree.species }.tally.then do |kinds|
          next 1.0 if kinds.empty?

          bark = @orchard.bark_forecast(@today)
          kinds.sum { |species, count| bark.late_share(species) * count } / kinds.values.sum
        end
      end

      # Planned limbs by the number of the limb.
      def planned
        @planned ||= (first...(first + seasons)).flat_map { |season| @orchard.planned(:stubs, season).rows }
          .select(&:complete?).to_h { |row| [row.limb_id, row] }
      end

      # Which limbs stand in which season now, as the reckoning chooses.
      #
      # @return [Array<Hash>] +limb+ and +season+, counted from the first
      def standing = planned.values.map { |row| { limb: row.limb_id, season: row.season - first } }

      private

      def seasons = @wish.fetch("seasons")

      def trees
        @trees ||= planned.values.group_by { |row| row.limb.tree_id }.map do |id, rows|
          plan = TreePlan.new(in_full.fetch(id), @today).as_decided
          limbs = rows.map { |row| limb(plan, row) }
          { id: id, worth: (plan.tree.plan&.new_worth || 1).to_f, limbs: limbs, cap: cap(plan, limbs) }
        end
      end

      def minutes
        share = late? ? late_share : 1.0
        @wish.fetch("hours", []).first(seasons).each_with_index.map do |hours, season|
          [hours * 60.0 * share, fixed(season).sum { |limb| limb[:minutes] }].max
        end
      end

      def fixed(season) = trees.flat_map { |tree| tree[:limbs] }.select { |limb| limb[:fixed] == season }

      def settled = @settled ||= CrewPlan.settled(@orchard, @today)

      def in_full = @in_full ||= @orchard.trees_in_full(planned.values.map { |row| row.limb.tree_id }.uniq)
        .to_h { |tree| [tree.id, tree] }

      # The most that one season may take: the steward's word, else the rulebook's; but any limb alone may be worked,
      # and what is settled to a day stays in its season, whatever it comes to.
      def cap(plan, limbs)
        said = plan.tree.plan&.cap || @orchard.rulebook.value("reckoning.allot.cap")
        limbs = limbs.reject { |each| each[:headed] }
        settled = limbs.select { |each| each[:fixed] }.group_by { |each| each[:fixed] }.values
        together = settled.map { |few| few.sum { |each| each[:share] } }
        [said.to_f, *limbs.map { |each| each[:share] }, *together].max.clamp(0.0, 1.0)
      end

      def limb(plan, row)
        limb = plan.limbs.find { |each| each.id == row.limb_id }
        outlook = plan.outlook(limb)
        { id: row.limb_id, share: plan.share(limb).clamp(0.0, 1.0), headed: !plan.fresh?(limb),
          stub_mm: outlook.stock_mm,
          shoot_mm: plan.shoot_mm(limb), take: outlook.stub_take, sticks: row.sticks, minutes: outlook.minutes,
          variety: row.variety_id, fixed: settled.include?(row.id) ? row.season - first : nil }
      end

      # This season's from the stores and promises, and later ones' from promises and what the young grafts of a
      # variety give. Of one that stands here on old wood, later wood is taken to be had.
      def wood
        now = @orchard.wood_supply(first, @today).lines.map do |line|
          { variety: line.variety.id, season: 0,
            sticks: [line.for_stubs + @wish.fetch("more", {}).fetch(line.variety.id.to_s, 0),
                     settled_sticks(line.variety.id, 0)].max }
        end
        now + (1...seasons).flat_map { |season| wood_of_later(season) }
      end

      def wood_of_later(season)
        promised = @orchard.wood_supply(first + season, @today).lines.to_h { |line| [line.variety.id, line.for_stubs] }
        scarce.map do |id|
          given = promised.fetch(id, 0) + later.given_by(later.young(id)).floor
          { variety: id, season: season, sticks: [given, settled_sticks(id, season)].max }
        end
      end

      def later = @later ||= LaterWood.new(@orchard, first, @today)

      # Varieties that are planned and do not stand here.
      def scarce
        @scarce ||= trees.flat_map { |tree| tree[:limbs] }.map { |limb| limb[:variety] }.uniq
          .reject { |id| later.standing?(id) }
      end

      def settled_sticks(variety_id, season)
        fixed(season).select { |limb| limb[:variety] == variety_id }.sum { |limb| limb[:sticks] }
      end
    end
  end
end
