# frozen_string_literal: true

module Vestry
  module Core
    # A length beside the ends it is held against, said as finely as it takes to tell it from each that it is not.
    #
    #   Apart.say(5.6, [6, 40], "imperial")   # => ["7/32 in", "1/4 in", "1 9/16 in"]
    #   Apart.say(24.7, [25, 150], "metric")  # => ["24.7 mm", "25.0 mm", "150.0 mm"]
    module Apart
      # Parts of an inch, and decimals of a millimetre, each finer than the one before.
      FINER = { "imperial" => [16, 32, 64], "metric" => [1, 2] }.freeze
      private_constant :FINER

      # @param mm [Numeric]
      # @param ends [Array<Numeric, nil>] mm; nil where there is none
      # @param units [String] metric or imperial
      # @return [Array<String, nil>] the length and its ends, as they are said everywhere where that tells them apart
      def self.say(mm, ends, units)
        all = [mm, *ends]
        usual = all.map { |each| each && Measure.say(each, units) }
        return usual if apart?(all, usual)

        finer = FINER.fetch(units).lazy.map { |step| all.map { |each| each && finely(each, step, units) } }
        finer.find { |said| apart?(all, said) } || finer.to_a.last
      end

      def self.apart?(all, said)
        all.drop(1).zip(said.drop(1)).none? { |each, words| each && words == said[0] && !Near.equal?(each, all[0]) }
      end

      def self.finely(mm, step, units)
        units == "imperial" ? Measure.say_inches(mm, step) : "#{format("%.#{step}f", mm)} mm"
      end
      private_class_method :apart?, :finely
    end
  end
end
