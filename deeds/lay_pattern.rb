# frozen_string_literal: true

module Vestry
  module Deeds
    # Plans many trees at once from one wish: a variety, a school, so many seasons. Each tree keeps
    # a plan of its own, fitted to its limbs; what cannot be done is told tree by tree.
    module LayPattern
      SLICE = 40
      MOST_TREES = 5000

      # @param wish [Hash] +variety+ (id), +school+, +seasons+, +purpose+, +replace+
      # @param tree_ids [Array<Integer>]
      # @return [Records::Pattern] on its way
      # @raise [Refused]
      def self.begin(orchard, wish, tree_ids, by:, today:, client_key: nil)
        raise Refused, rows: ["Choose at least one row with trees in it, or single trees."] if tree_ids.empty?
        raise Refused, rows: ["At most #{MOST_TREES} trees at once; choose fewer rows."] if tree_ids.size > MOST_TREES

        # Whether each tree's own stock bears it is told tree by tree; here only whether it may be planned at all.
        variety = DecideLimb.variety!(orchard, wish[:variety], stock_of(orchard, wish, tree_ids)) if wish[:variety]
        DB.transaction do
          same = Records::Pattern.sent_as(orchard.id, client_key)
          next same if same

          pattern = Records::Pattern.create(orchard_id: orchard.id,
                                            wish: wish.merge(variety: variety&.id).compact.transform_keys(&:to_s),
                                            tree_ids: tree_ids, by: by, client_key: client_key)
          Jobs::LayPattern.enqueue(pattern.id, today.iso8601)
          pattern
        end
      end

      # The stock among these trees that bears the variety best.
      def self.stock_of(orchard, wish, tree_ids)
        scion = Records::Variety.species_of(orchard, wish[:variety])
        Records::TreeQueries.species_of(orchard, tree_ids).min_by do |stock|
          %w[good workable doubtful refused].index(orchard.rulebook.compatibility(stock, scion)["value"])
        end
      end

      # Plans slice by slice. A slice and the word of how far it is are written together, so that
      # work that was broken off goes on where it stopped.
      def self.write(pattern, today:)
        pattern.advance("waiting", state: "running")
        until (pattern.reload).over?
          break pattern.finish("done") if pattern.done >= pattern.tree_ids.size

          slice(pattern, today)
        end
      rescue Sequel::DatabaseError => e
        pattern.fail_with(e)
      end

      def self.slice(pattern, today)
        DB.transaction do
          held = pattern.held_running or return
          ids = held.tree_ids[held.done, SLICE].to_a
          Records::TreeQueries.hold(ids)
          trees = held.orchard.trees_in_full(ids).to_h { |tree| [tree.id, tree] }
          writer = PatternWriter.new(held, today)
          outcome = ids.map do |id|
            trees[id] ? writer.lay(trees[id]) : { "tree" => id, "done" => false,
                                                  "notes" => [{ "code" => "pattern_gone" }] }
          end
          writer.flush
          held.update(done: held.done + ids.size, outcome: held.outcomes + outcome)
        end
      end
      private_class_method :slice, :stock_of

      # Lays the wish on single trees, and writes many rows together.
      class PatternWriter
        def initialize(pattern, today)
          @pattern = pattern
          @orchard = pattern.orchard
          @today = today
          @wish = pattern.wish.to_h
          @variety = @wish["variety"] && @orchard.variety!(@wish["variety"])
          @school = @wish["school"] || @orchard.school
          @rows = []
        end

        # @return [Hash] what came of it
        def lay(tree)
          against = against(tree)
          return told(tree, false, [against]) if against

          standing = tree.plan ? tree.plan.plan_limbs.select { |row| kept?(row, tree) } : []
          plan = Records::TreePlan.new(tree, @today, school: @school, planned: standing)
          return told(tree, false, [{ "code" => "pattern_nothing_workable" }]) unless plan.any? && plan.work.any?

          way, notes = way(plan)
          return told(tree, false, notes) unless way

          notes = [*notes, *lasting(tree)]
          was = tree.plan&.id
          laid = write(tree, plan, way, standing, notes)
          told(tree, true, notes, seasons: way.count, plan: laid.id, was: was)
        end

        # Writes what was laid, and its history.
        def flush
          ids = Records::PlanLimb.add_all(@rows)
          after = @rows.zip(ids).to_h do |row, id|
            [id, row.slice(:plan_id, :limb_id, :role, :season, :technique, :variety_id)
              .merge(cut_mm: row[:cut_mm]&.to_f).compact]
          end
          Records::HistoryLog.add_all(after, orchard_id: @orchard.id, table: :plan_limbs, action: "add",
                                      who: @pattern.by)
        end

        private

        def told(tree, done, notes, **more)
          { "tree" => tree.id, "label" => tree.label, "done" => done, "notes" => notes, **more.transform_keys(&:to_s) }
        end

        def kept?(row, tree)
          limb = tree.limbs.find { |each| each.id == row.limb_id }
          limb && Records::PlanLimb.done_on?(limb)
        end

        def against(tree)
          return { "code" => "pattern_no_limbs" } if tree.standing_limbs.empty?
          return { "code" => "pattern_has_plan" } if tree.plan && !@wish["replace"]

          wrong = @variety && DecideLimb.against_variety(@orchard, @variety, tree.species)
          { "code" => "pattern_refused", "words" => wrong } if wrong
        end

        # What is to be known of the variety on this stock, where it does not simply last.
        def lasting(tree)
          pair = @variety ? @orchard.rulebook.compatibility(tree.species, @variety.species) : {}
          return [] unless pair["value"] == "doubtful" || pair["delayed"]

          [{ "code" => "pattern_lasting", "variety" => @variety.name, **pair.slice("value", "why", "delayed") }]
        end

        # The wished number of seasons, or the most that can be kept.
        def way(plan)
          wished = @wish["seasons"].to_i
          way = Records::TreePace.new(plan, cap: nil).nearest(wished)
          return [nil, [{ "code" => "pattern_no_pace", "seasons" => wished }]] unless way

          [way, way.count == wished ? [] : [{ "code" => "pattern_fewer_seasons", "wished" => wished,
                                              "made" => way.count }]]
        end

        def write(tree, plan, way, standing, notes)
          if tree.plan
            Ledger.change(tree.plan, { superseded_at: Time.now.utc }, by: @pattern.by,
                          why: "planned anew with its rows")
          end
          row = begun(tree, way.count)
          standing.each { |old| @rows << blank(row).merge(old.values.slice(*NewVersion::KEPT)) }
          way.seasons.each_with_index { |limbs, index| limbs.each { |limb| work(row, plan, limb, index, notes) } }
          (plan.nurses + plan.lifted + plan.renewed).reject { |limb| plan.decided?(limb) }.each do |limb|
            @rows << blank(row).merge(limb_id: limb.id, role: plan.role(limb), season: plan.first_season)
          end
          row
        end

        # Why a tree is changed, and what it is worth, is said of the tree, and stays when it is planned anew.
        def begun(tree, seasons)
          said = tree.plan ? tree.plan.values.slice(:reasons, :old_worth, :new_worth) : {}
          Ledger.add(Records::Plan, said.merge(orchard_id: @orchard.id, tree_id: tree.id, school: own_school,
                                               seasons: seasons, purpose: @wish["purpose"]), by: @pattern.by)
        end

        # A plan that goes by the orchard's school follows the orchard.
        def own_school = (@school unless @school == @orchard.school)

        def work(row, plan, limb, index, notes)
          outlook = plan.outlook(limb)
          values = blank(row).merge(limb_id: limb.id, role: plan.role(limb) == "backup" ? "backup" :
                                    (index.zero? ? "work" : "later"), season: plan.first_season + index,
                                    variety_id: @variety&.id)
          if outlook.cut[:feasible]
            values.update(technique: outlook.technique, cut_mm: outlook.at_mm.round(1),
                          stock_mm: outlook.stock_mm.round(1), sticks: outlook.sticks[:count],
                          faces: outlook.faces)
          else
            notes << { "code" => "pattern_no_cut", "tag" => limb.tag, "conflict" => outlook.cut[:conflict] }
          end
          @rows << values
        end

        # Every row has the same columns, so that they go in together.
        def blank(row)
          { orchard_id: @orchard.id, plan_id: row.id, limb_id: nil, role: nil, season: nil, cut_mm: nil, technique: nil,
            variety_id: nil, sticks: nil, faces: [],
            against_reason: nil, stock_mm: nil, long_cut_mm: nil, headed_on: nil, headed_by: nil,
            after_graft_on: nil, hand: nil, undone_on: nil, undone_why: nil }
        end

      end
      private_constant :PatternWriter
    end
  end
end
