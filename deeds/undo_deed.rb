# frozen_string_literal: true

module Vestry
  module Deeds
    # Undoes what one form did: each fact that it changed is again as it was, what it added leaves sight, what it took
    # away is back. For who did it, for a day, and while everything stands as it left it.
    module UndoDeed
      WHYS = %w[undone done\ again].freeze
      HOURS = 24
      # Tables whose rows are put back by their own columns, and their models.
      MODELS = Hide::KINDS.merge("orchards" => "Orchard", "plans" => "Plan", "plan_limbs" => "PlanLimb",
                                 "plan_sites" => "PlanSite", "limb_events" => "LimbEvent",
                                 "wood_promises" => "WoodPromise", "bundles" => "Bundle",
                                 "bridge_scions" => "BridgeScion").freeze
      # Facts that say who comes in, and where it lies.
      APART = %w[second_factor slug hidden_at].freeze
      # What is written down of a bundle when its sticks go into a graft: they come back with the graft.
      STICKS = %w[used back].freeze
      # The columns that merging two varieties changes everywhere.
      MERGED = %w[variety_id].freeze
      private_constant :HOURS, :MODELS, :APART, :STICKS, :MERGED

      # @param lines [Array<Hash>] of history, all of one deed
      # @param account [Records::Account]
      # @return [Boolean] whether that person is offered to undo it
      def self.offered?(lines, account, now: Time.now.utc)
        lines = own_lines(lines)
        lines.any? && lines.all? { |line| line[:account_id] == account.id && possible?(line, lines) } &&
          lines.last[:at] > now - (HOURS * 3600)
      end

      # Whether what it did was itself to undo something.
      def self.undone?(lines) = lines.any? { |line| line[:why] == WHYS.first }

      # @param member [Records::Membership] who did it
      # @return [Array<Hash>] the lines that were undone
      # @raise [Refused] where it is not theirs to undo, or not any longer
      # @raise [Records::Missing] where nobody did such a thing here
      def self.call(orchard, deed, member:)
        lines = Records::HistoryQueries.of_deed(orchard, deed)
        raise Records::Missing if lines.empty?

        DB.transaction do
          may!(lines, member.locked)
          hold_trees(orchard, lines)
          back(orchard, own_lines(lines), member.known_as, undone?(lines) ? WHYS.last : WHYS.first)
        end
        lines
      rescue Sequel::UniqueConstraintViolation
        raise Refused, deed: ["something else stands in its place now"]
      end

      # What a person may do here does not change meanwhile.
      def self.may!(lines, member)
        return if offered?(lines, member.account) &&
          !Records::HistoryQueries.role_changed_since?(member, lines.last[:id])

        raise Refused, deed: ["it is not there to be undone any more"]
      end

      # Whoever decides or measures on the same trees waits: they hold the tree first, too.
      def self.hold_trees(orchard, lines)
        rows = own_lines(lines).reject { |line| line[:table_name] == "orchards" }.map { |line| row(orchard, line) }
        trees = rows.filter_map { |row| tree_id(row) }
        Records::TreeQueries.hold(trees.uniq) if trees.any?
      end

      def self.tree_id(row)
        return row.id if row.is_a?(Records::Tree)
        return row.tree_id if row.respond_to?(:tree_id)

        on = %i[plan graft wound photo limb].find { |name| row.respond_to?(name) }
        on && tree_id(row.public_send(on))
      end

      # What was changed and added, the last first; then what went out of sight, as it went.
      def self.back(orchard, lines, by, why)
        away, written = lines.partition { |line| line[:action] == "hide" }
        # Undoing writes from the last to the first.
        away.reverse! if lines.any? { |line| WHYS.include?(line[:why]) }
        (written.reverse + away).each do |line|
          row = row(orchard, line)
          done = case line[:action]
                 when "change" then !worked?(row, lines) && change_back(row, line, by, why)
                 when "hide" then appear(row, by, why)
                 else leave(row, by, why)
                 end
          raise Refused, deed: ["#{called(row)} was changed since"] unless done
        end
      end

      def self.row(orchard, line)
        return orchard if line[:table_name] == "orchards"

        Records.const_get(MODELS.fetch(line[:table_name])).of_orchard!(orchard, line[:row_id])
      end

      def self.change_back(row, line, by, why)
        return UndoWood.call(row, line, by: by, why: why) if UndoWood.knows?(line)
        return UndoEvent.call(row, line, by: by, why: why) if UndoEvent.knows?(line)

        facts = Ledger.before(row.locked, line) or return false
        case line[:table_name]
        when "limbs" then MeasureLimb.call(row, facts, by: by, why: why)
        when "trees" then CorrectTree.call(row, facts, by: by, why: why)
        else Ledger.change(row, facts, by: by, why: why)
        end
      end

      # What was worked as it was decided stays so, and a scion that was looked at since. Merged varieties part
      # with all that points at them.
      #
      # @param lines [Array<Hash>] of the same deed
      def self.worked?(row, lines)
        case row
        when Records::PlanLimb
          lines.none? { |line| line[:table_name] == "varieties" } &&
            Records::PlanLimb.done_on?(Records::Limb[row.limb_id])
        when Records::BridgeScion then row.looked_at?
        end
      end

      # What was added leaves sight, unless something hangs on it meanwhile.
      def self.leave(row, by, why)
        return true if row.locked.hidden_at
        return end_plan(row, by, why) if row.is_a?(Records::Plan)
        return UndoWood.untie(row, by: by, why: why) if row.is_a?(Records::Bundle)
        return false if worked?(row, [])
        return Ledger.hide(row.locked, by: by, why: why) && true unless Hide::KINDS.key?(row.class.table_name.to_s)

        Hide.alone?(row) && Hide.call(row, by: by, why: why) && true
      end

      def self.appear(row, by, why)
        return true unless row.locked.hidden_at
        return Ledger.restore(row.locked, by: by, why: why) && true unless Hide::KINDS.key?(row.class.table_name.to_s)

        Hide.undo(row, by: by, why: why) && true
      end

      # A plan that was begun by mistake, while it holds nothing.
      def self.end_plan(plan, by, why)
        return false if plan.superseded_at || plan.plan_limbs(reload: true).any? || plan.plan_sites(reload: true).any?

        Ledger.change(plan, { superseded_at: Time.now.utc }, by: by, why: why) && true
      end

      def self.possible?(line, lines)
        return false unless MODELS.key?(line[:table_name])
        return apart?(line) if line[:action] == "change"
        return false if line.values_at(:table_name, :action) == %w[bundles hide]

        # A version of a plan takes over what is held for the one before: it is taken back from the list of versions.
        !(line[:table_name] == "plans" && lines.any? { |each| each[:table_name] == "plans" &&
                                                              each[:row_id] != line[:row_id] })
      end

      def self.apart?(line)
        return UndoWood.knows?(line) if line[:before].nil?

        columns = line[:before].keys | line[:after].to_h.keys
        # The day on which wood was cut moves where it lay too.
        (line[:table_name] != "bundles" || columns == MERGED) && (columns & APART).empty?
      end

      # Without what only tells of a row that comes or goes in the same deed: of its sticks, or of what hangs on it.
      def self.own_lines(lines)
        come = lines.reject { |line| line[:action] == "change" }.map { |line| line.values_at(:table_name, :row_id) }
        grafts = come.any? { |table, _| %w[grafts wounds].include?(table) }
        lines.reject do |line|
          next unless line[:action] == "change" && line[:before].nil?

          come.include?(line.values_at(:table_name, :row_id)) ||
            (grafts && line[:table_name] == "bundles" && (line[:after].to_h.keys & STICKS).any?)
        end
      end

      def self.called(row)
        own = %i[label code name].find { |name| row.respond_to?(name) }
        return row.public_send(own) if own

        called(row.public_send(%i[limb graft wound tree photo variety].find { |name| row.respond_to?(name) }))
      end
      private_class_method :may!, :hold_trees, :tree_id, :worked?, :back, :row, :change_back, :leave, :appear,
                           :end_plan, :possible?, :apart?, :own_lines, :called
    end
  end
end
