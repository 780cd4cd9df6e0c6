# frozen_string_literal: true

require "socket"

# A mail service on loopback that keeps what it is sent, in the mood it is told to be in.
class SmtpSink
  Taken = Struct.new(:from, :to, :data, keyword_init: true)
  REFUSING = { refuses: "550 no such person here", busy: "451 try again later" }.freeze

  attr_reader :taken
  attr_accessor :mood

  def initialize(mood = :well, password: nil)
    @server = TCPServer.new("127.0.0.1", 0)
    @mood = mood
    @password = password
    @taken = Queue.new
    @thread = Thread.new { loop { Thread.new(@server.accept) { |line| serve(line) } } }
  end

  def address = "smtp://#{'post:a+secret@' if @password}127.0.0.1:#{@server.addr[1]}"
  def letters = Array.new(@taken.size) { @taken.pop }

  def close
    @thread.kill
    @server.close
  end

  private

  def serve(line)
    line.print "220 sink.example ready\r\n"
    letter = Taken.new(to: [])
    while (asked = line.gets)
      line.print "#{answer(asked.chomp, letter, line)}\r\n"
      break if asked.match?(/\AQUIT/i)
    end
  rescue SystemCallError, IOError
    nil
  ensure
    line.close
  end

  def answer(asked, letter, line)
    case asked
    when /\AEHLO/i then @password ? "250-sink.example\r\n250 AUTH PLAIN" : "250 sink.example"
    when /\AAUTH PLAIN (.*)/i then $1.unpack1("m") == "\0post\0#{@password}" ? "235 come in" : "535 that is not it"
    when /\AMAIL FROM:<(.*?)>/i then letter.from = $1 and "250 well"
    when /\ARCPT TO:<(.*?)>/i then REFUSING[mood] || (letter.to << $1 and "250 well")
    when /\ADATA/i then take(letter, line)
    else "250 well"
    end
  end

  def take(letter, line)
    line.print "354 go on\r\n"
    letter.data = +""
    while (said = line.gets) && said != ".\r\n"
      letter.data << said.sub(/\A\./, "")
    end
    @taken << letter.dup
    "250 taken"
  end
end
