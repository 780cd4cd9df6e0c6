# frozen_string_literal: true

module Vestry
  module Web
    class Headline
      # What matters of the whole orchard: the sentence of the station that presses most.
      module OfToday
        # The front page of an orchard.
        #
        # @return [Records::TodayBoard::Front]
        def front
          Records::TodayBoard.front(orchard, @today) do |board|
            words = board.matters.to_h { |matter| [matter.station, of_station(matter.station, board)] }
            { "first" => words.values.first || quiet(board), **words }
          end
        end

        private

        # What a station's page says, said here.
        def of_station(station, board)
          case station
          when "tend" then tend(board.agenda)
          when "graft" then "#{graft}#{day_words(board)}"
          when "slip" then slip(board.windows.spring, board.revisits, board.board)
          when "wood" then wood(board.order, board.cellar)
          when "tally" then tally(board.count_rows)
          else public_send(station)
          end
        end

        def quiet(board)
          item = board.agenda.ahead.min_by { |each| each.task[:opens_on] }
          "Nothing presses today#{item ? next_words(board.agenda) : ''}."
        end

        def day_words(board)
          return "" if orchard.season_to_plan(@today) > orchard.season.name_of(@today)

          next_good_day(board.board).then { |words| words ? " #{words[0].upcase}#{words[1..]}." : "" }
        end
      end
    end
  end
end
