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

          change(limb, values, by)
          Ledger.add(Records::LimbEvent, values.merge(orchard_id: limb.orchard_id, limb_id: limb.id, by: by), by: by)
        end
      end

      def self.errors(limb, values, today)
        found = day_errors(limb, values[:happened_on], today)
        found[:kind] = ["#{limb.label} has come off"] if limb.gone_on
        left = values[:left_mm]
        if Records::LimbEvent::SHORTER.include?(values[:kind])
          found[:left_mm] = shorter(limb, left) if shorter(limb, left)
        elsif values[:kind] == "regrown"
          found[:left_mm] = longer(limb, left) if longer(limb, left)
        elsif values[:rise_deg].nil?
          found[:rise_deg] = ["say how it rises now, in degrees"]
        end
        found
      end

      # Why so much cannot be left, in a list; nil where it can.
      def self.shorter(limb, left)
        return ["say how much is left, from its fork; 0 where nothing is"] if left.nil?

        whole = limb[:length_mm]&.to_f
        return ["is more than the #{say(limb, whole)} that stood"] if whole && left > whole
        return nil unless (graft = living(limb)) && graft.cut_mm && left >= graft.cut_mm

        ["is above its cut at #{say(limb, graft.cut_mm)}: what broke there is the graft's own; record a visit"]
      end

      # Why it cannot have grown to so much; nil where it can.
      def self.longer(limb, left)
        return ["say how long it is now"] unless left&.positive?

        stood = limb[:length_mm]&.to_f
        ["is no more than the #{say(limb, stood)} that stood"] if stood && left <= stood
      end

      def self.day_errors(limb, day, today)
        return { happened_on: ["lies in the future; #{today.iso8601} is the latest"] } if day > today
        return {} unless day < limb.surveyed_on

        { happened_on: ["is before #{limb.label} was surveyed, on #{limb.surveyed_on.iso8601}"] }
      end

      def self.change(limb, values, by)
        why = Records::LimbEvent::KINDS.fetch(values[:kind])
        case values[:kind]
        when "tied-down" then Ledger.change(limb, { rise_deg: values[:rise_deg] }, by: by, why: why)
        when "regrown" then lengthen(limb, values[:left_mm], by, why)
        else
          values[:left_mm].zero? ? come_off([limb], values, by, why) : lengthen(limb, values[:left_mm], by, why)
          beyond = limb.children.select { |each| each.fork_mm >= values[:left_mm] }
          come_off(beyond, values, by, why)
          lose(limb, values, by)
        end
      end

      def self.lengthen(limb, mm, by, why)
        Ledger.change(limb, { length_mm: mm, length_typed: nil }, by: by, why: why)
      end

      # A limb, and all that grows on it.
      def self.come_off(limbs, values, by, why)
        limbs.reject { |each| each.gone_on || each.hidden? }.each do |each|
          Ledger.change(each, { gone_on: values[:happened_on] }, by: by, why: why)
          lose(each, values, by)
          come_off(each.children, values, by, why)
        end
      end

      # A graft beyond what is left is lost with it.
      def self.lose(limb, values, by)
        graft = living(limb) or return
        Ledger.change(graft, { lost_on: [values[:happened_on], graft.grafted_on].max, lost_cause: LOSSES[values[:kind]],
                               lost_note: "the limb #{Records::LimbEvent::KINDS.fetch(values[:kind])} below it" },
                      by: by)
      end

      def self.living(limb) = limb.graft&.then { |graft| graft unless graft.fate == "lost" }
      def self.say(limb, mm) = Core::Measure.say(mm, limb.orchard.units)
      private_class_method :errors, :shorter, :longer, :day_errors, :change, :lengthen, :come_off, :lose, :living, :say
    end
  end
end
