# frozen_string_literal: true

require "icalendar"

module Vestry
  module Web
    # A person's agenda as an iCalendar: each task a day's event from the day it falls due.
    module AgendaCalendar
      # @param key [Records::CalendarKey]
      # @param base [String, nil] where the pages are
      # @return [String]
      def self.of(key, base)
        orchard = key.orchard
        today = Outside::Clock.today(orchard.time_zone)
        mine = key.account.role_in(orchard) == "steward" ? nil : key.account.name_in(orchard)
        calendar = Icalendar::Calendar.new
        calendar.prodid = "-//Vestry//Agenda//EN"
        calendar.append_custom_property("X-WR-CALNAME", "#{orchard.name}: what is due")
        voice = Headline.new(orchard, today)
        Records::Agenda.new(orchard, today, person: mine).calendar.each do |item|
          calendar.add_event(event(orchard, item, base, voice))
        end
        calendar.to_ical
      end

      # A day's event takes no time of the day away. It was told when something of its graft was last recorded; each
      # record is one revision more.
      #
      # @param voice [#task_words]
      def self.event(orchard, item, base, voice)
        kind = item.wound? ? "wound" : "graft"
        Icalendar::Event.new.tap do |event|
          event.uid = "#{kind}-#{item.of.id}-#{item.task[:key]}@#{orchard.slug}.vestry"
          on(event, item.task[:due_on])
          as_recorded(event, item.of)
          say(event, item.label, voice.task_words(item.task))
          page = item.wound? ? "repair" : "tend/grafts"
          event.url = "#{base}/o/#{orchard.slug}/#{page}/#{item.of.id}" if base
        end
      end

      # The whole of a day, which stays free.
      def self.on(event, day)
        event.dtstart, event.dtend = [day, day + 1].map { |each| Icalendar::Values::Date.new(each) }
        event.transp = "TRANSPARENT"
      end

      def self.as_recorded(event, row)
        event.dtstamp = Icalendar::Values::DateTime.new(recorded_at(row), "tzid" => "UTC")
        event.sequence = records(row).size
      end

      def self.say(event, label, words)
        event.summary = "#{label}: #{words['title']}"
        event.description = "#{words['does']} #{words['why']}"
      end

      # @return [Array<#created_at>] what was recorded of it: it, its visits, its counts and what was done
      def self.records(row)
        [row, *row.visits, *(row.respond_to?(:tallies) ? row.tallies : []), *row.tasks_done]
      end

      def self.recorded_at(row) = records(row).map { |each| each[:created_at] }.compact.max.utc
      private_class_method :event, :on, :as_recorded, :say, :records, :recorded_at
    end
  end
end
