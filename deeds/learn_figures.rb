# frozen_string_literal: true

module Vestry
  module Deeds
    # Lays what an orchard's seasons have taught over the rulebook's figures, once a day.
    module LearnFigures
      module_function

      def all(today: nil)
        Outside::FailureLog.each_alone(Records::Orchard.standing, "learning from the counts") do |orchard|
          call(orchard, today: today || Outside::Clock.today(orchard.time_zone))
        end
      end

      # Nothing is written where nothing new was learned.
      #
      # @return [Boolean] whether anything was
      def call(orchard, today:)
        used = Records::OwnFigures.new(orchard, today).used
        orchard.learned_anew(used)
      end
    end
  end
end
