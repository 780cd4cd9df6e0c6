# frozen_string_literal: true

require "puma"
require "puma/server"

# A phone with a line of its own: the application on a port that can be stopped, started and slowed. What it is given is
# named by +serve_line+.
module OwnLine
  def self.included(group)
    group.class_eval do
      let(:port) { TCPServer.new("127.0.0.1", 0).then { |server| server.addr[1].tap { server.close } } }

      around do |example|
        host, run = Capybara.app_host, Capybara.run_server
        Capybara.run_server = false
        Capybara.app_host = "http://127.0.0.1:#{port}"
        # A session of its own: the others have a server that stays.
        Capybara.using_session("a line of its own") { example.run }
      ensure
        Capybara.app_host, Capybara.run_server = host, run
        cut_line
      end
    end
  end

  # @param app [#call] what answers
  def serve_line(app, threads: 5)
    @server = Puma::Server.new(app, nil, { min_threads: 1, max_threads: threads })
    @server.add_tcp_listener("127.0.0.1", port)
    @server.run
  end

  def cut_line
    @server&.stop(true)
    @server = nil
  end
end
