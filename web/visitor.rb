# frozen_string_literal: true

require "ipaddr"

module Vestry
  module Web
    # Where a request comes from: its place, what kind of device it is, and the token the device carries.
    Visitor = Struct.new(:place, :device, :token, keyword_init: true) do
      def self.of(env)
        request = Rack::Request.new(env)
        new(place: place(request.ip), device: device(env["HTTP_USER_AGENT"].to_s),
            token: request.cookies[Visitor::COOKIE].to_s[0, 80])
      end

      # One household has many addresses of the longer kind: their common part stands for them.
      def self.place(text)
        address = IPAddr.new(text.to_s)
        address.ipv6? ? "#{address.mask(64)}/64" : address.to_s
      rescue IPAddr::Error
        "unknown"
      end

      def self.device(words)
        case words
        when /iPad|Tablet/ then "a tablet"
        when /Mobi|Android|iPhone/ then "a phone"
        when "" then "a program"
        else "a computer"
        end
      end

      # For the door's log.
      def told = { place: place, device: device }
    end
    Visitor::COOKIE = "device"
  end
end
