# frozen_string_literal: true

module Vestry
  module Deeds
    # Logs what was done to a wounded trunk: a bridge, stocks inarched, a stem cut below, a wound dressed.
    # Scions set later, for those that died, are logged the same way. A stem that is cut takes off what stood above.
    module LogRepair
      # @param values [Hash] +repaired_on+, +course+, +wrap+, +seal+, +fixing+, +bark_slip+, +conditions+, and for a
      #   bridge or
      #   inarching +scions+ (each +bearing_deg+, perhaps +thickness_mm+) and perhaps +bundle+ (id) of whole shoots with
      # +shoots+ used; where a stem was cut, +left_mm+ of it above the soil, else as CutStem takes it
      # @return [Records::Wound]
      # @raise [Refused]
      def self.call(wound, values, by:, today:)
        DB.transaction do
          wound.tree.locked
          wound = wound.locked
          values = values.merge(left_mm: values[:left_mm] || CutStem.usual(wound, values[:course]))
          check(wound, values, today)
          first = wound.repaired_on.nil?
          named = named_shoots(wound, values)
          Ledger.change(wound, facts(wound, values, by), by: by)
          set(wound, values, by) if values[:scions]
          cut(wound, values, by, today) if first && cut?(values)
          use(wound, values, named, by)
          wound.refresh
        end
      end

      def self.facts(wound, values, by)
        dressed = values[:repaired_on] if values[:course] == "dress"
        { **values.slice(:wrap, :seal, :fixing, :bark_slip, :conditions, :course), repaired_by: by,
          repaired_on: wound.repaired_on || values[:repaired_on], covered_on: wound.covered_on || dressed }
      end

      def self.cut?(values) = Core::Repair::Mending::CUT.include?(values[:course])
      def self.cut(wound, values, by, today)
        CutStem.call(wound, left_mm: values[:left_mm], day: values[:repaired_on],
                            grafted: values[:course] == "stump-graft", by: by, today: today)
      end

      def self.check(wound, values, today)
        errors = { repaired_on: day_error(wound, values[:repaired_on], today), scions: scions_error(wound, values),
                   left: (CutStem.wrong(values[:left_mm], grafted: values[:course] == "stump-graft") if cut?(values)) }
        errors = errors.compact.transform_values { |why| [why] }
        raise Refused, errors if errors.any?
      end

      def self.day_error(wound, day, today)
        return SaidDay.ahead(today) if day > today

        "is before the wound was found, on #{SaidDay.of(wound.found_on)}" if day < wound.found_on
      end

      def self.scions_error(wound, values)
        if values[:course] == "bridge" && !wound.measured?
          return "measure the margins first: each scion is cut for its own gap"
        end

        "say which were set" if Core::Repair::Mending::BRIDGED.include?(values[:course]) && values[:scions].to_a.empty?
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

      # The shoots of the bundle from which its scions were to be cut.
      def self.named_shoots(wound, values)
        return [] unless values[:bundle] && values[:course] == "bridge"

        Records::WoundReport.new(wound, values[:repaired_on])
          .shoots_at(values[:scions].map { |each| each[:bearing_deg].to_f })
          .filter_map { |stick, bundle| stick.id if bundle.id == values[:bundle] }
      end

      # Whole shoots that went into it leave their bundle: those that its scions were to be cut from before others.
      def self.use(wound, values, named, by)
        count = values[:shoots].to_i
        return unless values[:bundle] && count.positive?

        bundle = wound.orchard.bundle!(values[:bundle])
        # Those that are held for a stub come last.
        sticks = MoveSticks.hold(bundle, count, field: :shoots, named: named)
        Records::Stick.set_into(wound, sticks)
        Records::StickLocks.free_sticks(sticks)
        Ledger.event(bundle, { "into a bridge" => count, "tree" => wound.tree.label,
                               "numbers" => sticks.map(&:number) }, by: by)
      end
      private_class_method :facts, :cut?, :cut, :check, :day_error, :scions_error, :set, :named_shoots,
                           :use, :at_bearing
    end
  end
end
