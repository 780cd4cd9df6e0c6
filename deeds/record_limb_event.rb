# frozen_string_literal: true

module Vestry
  module Deeds
    # Records what happened to a limb: its day, what is left, and what goes with it.
    module RecordLimbEvent
      # By what a graft is lost that stood beyond what is left.
      LOSSES = { "broken" => "blown-out", "headed" => "cut-off", "died-back" => "unknown" }.freeze
      private_constant :LOSSES

      # @param values [Hash] +kind+, +happened_on+, +left_mm+, +rise_deg+, +note+, +client_key+
      # @return [Records::LimbEvent]
      # @raise [Refused]
      def self.call(limb, values, by:, today:)
        DB.transaction do
          limb.tree.locked
          limb = limb.locked or raise Records::Missing
          same = Records::LimbEvent.sent_as(limb.orchard_id, values[:client_key])
          next same if same

          errors = errors(limb, values, today)
          raise Refused, errors if errors.any?

          changes = []
          change(limb, values, ->(row, facts, why) { changes.concat(changed(row, facts, by, why)) })
          Ledger.add(Records::LimbEvent, values.merge(orchard_id: limb.orchard_id, limb_id: limb.id, by: by,
                                                      changes: Records::LimbEvent.kept(changes)), by: by)
        end
      end

      # Writes facts of a row, and tells what they were and are, so that it can be taken back.
      def self.changed(row, facts, by, why)
        before = row.values.slice(*facts.keys)
        Ledger.change(row, facts, by: by, why: why)
        facts.filter_map do |column, now|
          next if before[column] == now

          { table: row.class.table_name.to_s, id: row.id, column: column.to_s, was: plain(before[column]),
            now: plain(now) }
        end
      end

      def self.plain(value)
        case value
        when BigDecimal then value.to_f
        when Date then value.iso8601
        else value
        end
      end

      def self.errors(limb, values, today)
        found = day_errors(limb, values[:happened_on], today)
        found[:kind] = ["#{limb.label} has come off"] if limb.gone_on
        left = values[:left_mm]
        return found.merge(off_errors(limb)) if values[:kind] == "taken-off"

        if Records::LimbEvent::SHORTER.include?(values[:kind])
          found[:left_mm] = shorter(limb, left) if shorter(limb, left)
        elsif values[:kind] == "regrown"
          found[:left_mm] = longer(limb, left) if longer(limb, left)
        elsif values[:rise_deg].nil?
          found[:rise_deg] = ["say how it rises now, in degrees"]
        end
        found
      end

      # A limb is not taken off with a living graft on it, or on what grows from it.
      def self.off_errors(limb)
        standing = standing(limb).find { |each| living(each) }
        standing ? { happened_on: ["#{standing.label} carries a living graft"] } : {}
      end

      def self.standing(limb)
        [limb, *limb.standing_children.flat_map { |each| standing(each) }]
      end

      # Why so much cannot be left, in a list; nil where it can.
      def self.shorter(limb, left)
        return ["say how much is left, from its fork; 0 where nothing is"] if left.nil?

        whole = limb[:length_mm]&.to_f
        return ["is more than the #{say(limb, whole)} that stood"] if whole && left > whole
        return nil unless (graft = living(limb)) && graft.head_cut_mm && left >= graft.head_cut_mm

        ["is above its cut at #{say(limb, graft.cut_mm)}: what broke there is the graft's own; record a visit"]
      end

      # Why it cannot have grown to so much; nil where it can.
      def self.longer(limb, left)
        return ["say how long it is now"] unless left&.positive?

        stood = limb[:length_mm]&.to_f
        ["is no more than the #{say(limb, stood)} that stood"] if stood && left <= stood
      end

      def self.day_errors(limb, day, today)
        return { happened_on: [SaidDay.ahead(today)] } if day > today
        return {} unless day < limb.surveyed_on

        { happened_on: ["is before #{limb.label} was surveyed, on #{SaidDay.of(limb.surveyed_on)}"] }
      end

      # @param write [Proc] of a row, its facts and why
      def self.change(limb, values, write)
        why = Records::LimbEvent::KINDS.fetch(values[:kind])
        case values[:kind]
        when "tied-down" then write.call(limb, { rise_deg: values[:rise_deg] }, why)
        when "regrown" then lengthen(limb, values[:left_mm], write, why)
        when "taken-off" then come_off([limb], values, write, why)
        else
          values[:left_mm].zero? ? come_off([limb], values, write, why) : shorten(limb, values[:left_mm], write, why)
          beyond = limb.children.select { |each| each.fork_mm >= values[:left_mm] }
          come_off(beyond, values, write, why)
          lose(limb, values, write) { |graft| stays?(graft, values[:left_mm]) } unless limb.gone_on
        end
      end

      # What was set into its side lower down stands on, and what is the limb itself goes with its end alone.
      def self.stays?(graft, left)
        graft.filled? || (graft.head_cut_mm.nil? && !graft.cut_mm.nil? && graft.cut_mm <= left)
      end

      def self.lengthen(limb, mm, write, why) = write.call(limb, { length_mm: mm, length_typed: nil }, why)

      # What is left of it is as thick as it was: it tapers by how long it grew.
      def self.shorten(limb, mm, write, why)
        write.call(limb, { length_mm: mm, length_typed: nil, whole_mm: limb.grown_mm }, why)
      end

      # A limb, and all that grows on it.
      def self.come_off(limbs, values, write, why)
        limbs.reject { |each| each.gone_on || each.hidden? }.each do |each|
          write.call(each, { gone_on: values[:happened_on] }, why)
          lose(each, values, write)
          come_off(each.children, values, write, why)
        end
      end

      # Grafts beyond what is left are lost with it.
      #
      # @yieldparam graft [Records::Graft] a living one
      # @yieldreturn [Boolean] whether it stays
      def self.lose(limb, values, write)
        limb.grafts.each do |graft|
          next if graft.fate == "lost" || (block_given? && yield(graft))

          write.call(graft, { lost_on: [values[:happened_on], graft.grafted_on].max,
                              lost_cause: LOSSES.fetch(values[:kind]),
                              lost_note: "the limb #{Records::LimbEvent::KINDS.fetch(values[:kind])} below it" }, nil)
        end
      end

      def self.living(limb) = limb.graft&.then { |graft| graft unless graft.fate == "lost" }
      def self.say(limb, mm) = Core::Measure.say(mm, limb.orchard.units)
      private_class_method :errors, :changed, :plain, :off_errors, :standing, :shorter, :longer, :day_errors, :change,
                           :stays?, :lengthen, :shorten, :come_off, :lose, :living, :say
    end
  end
end
