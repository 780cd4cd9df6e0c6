# frozen_string_literal: true

module Vestry
  module Deeds
    module Jobs
      # Goes round the outside devices, and writes the day's letters.
      class PollDevices < Recurring
        EVERY = 600
        PARTS = { "thermometers" => -> { AskThermometers.call }, "weather" => -> { AskWeather.all },
                  "letters" => -> { DailyLetters.all } }.freeze
      end
    end
  end
end
