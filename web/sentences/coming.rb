# frozen_string_literal: true

module Vestry
  module Web
    module Sentences
      # How long work and what is on its way are told.
      module Coming
        # What share is through, before the way to look again.
        def through(done, all) = "#{all.to_i.positive? ? percent([done.fdiv(all), 1].min) : '0 %'} is through. "

        # What a begun day holds though the forecast would have it elsewhere now.
        #
        # @param moved [Array<Array(Records::StubWindows::StubWindow, Date)>]
        def say_moved(moved)
          where = moved.group_by(&:last).sort_by { |date, _| date || Date.new(9999) }.map do |date, stubs|
            "#{listed_some(stubs.map { |stub, _| stub.row.limb.label }, 4)} " \
            "#{date ? "to #{short_day(date)}" : 'to no day that is known'}"
          end
          "Work on this day was begun, so it holds. By the forecast as it is now the crew's plan would " \
          "move #{listed(where)}: see why at Slip, and decide."
        end

        # How a packed orchard on its way in stands.
        def say_upload(upload)
          name = upload.counts.to_h["name"] || upload.file_name
          if upload.undone_at
            return "#{name} was taken back on #{day(upload.undone_at.to_date)}; it can be brought back."
          end

          case upload.state
          when "waiting", "trying" then "#{upload.file_name} is being tried; nothing of it is kept."
          when "tried" then "#{name} can be brought in; nothing of it is here yet."
          when "refused" then "#{upload.file_name} cannot be brought in; nothing of it is here."
          when "sent", "bringing" then "#{name} is being brought in: all of it or nothing."
          else "#{name} is here."
          end
        end
      end
    end
  end
end
