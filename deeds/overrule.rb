# frozen_string_literal: true

module Vestry
  module Deeds
    # An orchard lays a value of its own over the rulebook's, with a reason; or takes it back.
    module Overrule
      # @param path [String] a rulebook path, or +practice.POINT+
      # @param typed [String] the value as typed
      # @raise [Refused] when the rulebook has no such entry, or the value is not of its kind
      def self.call(orchard, path, typed, why:, by:, today:)
        raise Refused, why: ["say why, for whoever reads it next"] if why.to_s.strip.empty?

        value = Core::RulebookOverrides.new(Core::Rulebook.shipped).read(path, typed, laid: orchard.overrides.to_h)
        lay(orchard, path, { "value" => value, "why" => why.strip, "who" => by, "on" => today.iso8601 }, by)
      rescue KeyError
        raise Refused, path: ["is not in the rulebook"]
      rescue Core::BadInput => e
        raise Refused, value: [e.allowed]
      end

      def self.take_back(orchard, path, by:) = lay(orchard, path, nil, by)

      def self.lay(orchard, path, entry, by)
        DB.transaction do
          current = orchard.locked
          laid = current.overrides.to_h.dup
          entry ? laid[path] = entry : laid.delete(path)
          Ledger.change(current, { overrides: laid }, by: by,
                        why: entry ? "#{path}: #{entry['why']}" : "#{path}: back to the rulebook")
        end
      end
      private_class_method :lay
    end
  end
end
