# frozen_string_literal: true

module Vestry
  module Deeds
    # Logs what was done to a wounded trunk: a bridge, stocks inarched, a stem cut below, a wound dressed.
    # Scions set later, for those that died, are logged the same way.
    module LogRepair
      # @param values [Hash] +repaired_on+, +course+, +wrap+, +seal+, +fixing+, +bark_slip+, +conditions+, and for a
      #   bridge or
      #   inarching +scions+ (each +bearing_deg+, perhaps +thickness_mm+) and perhaps +bundle+ (id) of whole shoots with
      # +shoots+ used
      # @return [Records::Wound]
      # @raise [Refused]
      def self.call(wound, values, by:, today:)
        check(wound, values, today)
        DB.transaction do
          wound = wound.locked
          facts = values.slice(:wrap, :seal, :fixing, :bark_slip, :conditions).merge(repaired_by: by)
          Ledger.change(wound, facts.merge(repaired_on: wound.repaired_on || values[:repaired_on],
                                           course: values[:course], covered_on: wound.covered_on ||
                                           (values[:repaired_on] if values[:course] == "dress")), by: by)
          set(wound, values, by) if values[:scions]
          use(wound, values[:bundle], values[:shoots], by) if values[:bundle] && values[:shoots].to_i.positive?
          wound.refresh
        end
      end

      def self.check(wound, values, today)
        errors = {}
        day = values[:repaired_on]
        errors[:repaired_on] = [SaidDay.ahead(today)] if day > today
        found = wound.found_on
        errors[:repaired_on] = ["is before the wound was found, on #{SaidDay.of(found)}"] if day < found
        grown = %w[bridge inarch].include?(values[:course])
        if values[:course] == "bridge" && !wound.measured?
          errors[:scions] = ["measure the margins first: each scion is cut for its own gap"]
        end
        errors[:scions] ||= ["say which were set"] if grown && values[:scions].to_a.empty?
        raise Refused, errors if errors.any?
      end

      def self.set(wound, values, by)
        taken = wound.scions.map(&:number).max.to_i
        values[:scions].each do |each|
          at = wound.measured? && values[:course] == "bridge" ? wound.scion_at(each[:bearing_deg]) : {}
          facts = { set_on: values[:repaired_on], thickness_mm: each[:thickness_mm], bundle_id: values[:bundle],
                    gap_mm: at[:gap_mm], length_mm: at[:length_mm] }
          row = at_bearing(wound.planned, each).first
          next Ledger.change(row, facts, by: by) if row

          # The same press twice sets it once.
          next if at_bearing(wound.seated, each).any? { |placed| placed.set_on == values[:repaired_on] }

          Ledger.add(Records::BridgeScion,
                     facts.merge(orchard_id: wound.orchard_id, wound_id: wound.id, number: taken += 1,
                                 bearing_deg: each[:bearing_deg]), by: by)
        end
        wound.associations.delete(:scions)
      end

      def self.at_bearing(rows, scion)
        rows.select { |row| (row.bearing_deg.to_f - scion[:bearing_deg]).zero? }
      end

      # Whole shoots that went into it leave their bundle.
      def self.use(wound, bundle_id, count, by)
        bundle = wound.orchard.bundle!(bundle_id)
        # Those that are held for a stub come last.
        sticks = MoveSticks.hold(bundle, count, field: :shoots)
        Records::Stick.set_into(wound, sticks)
        Records::StickLocks.free_sticks(sticks)
        Ledger.event(bundle, { "into a bridge" => count, "tree" => wound.tree.label }, by: by)
      end
      private_class_method :check, :set, :use, :at_bearing
    end
  end
end
