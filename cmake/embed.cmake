# Writes a C++ source that holds a text file as a string_view.
# Use: cmake -DIN=file -DOUT=file.cpp -DNAME=symbol -P embed.cmake
file(READ "${IN}" text)
set(pieces "")
string(LENGTH "${text}" length)
set(at 0)
while(at LESS length)  # one raw literal may hold 64 KiB at most in portable C++
    string(SUBSTRING "${text}" ${at} 12000 piece)
    string(APPEND pieces "R\"~~(${piece})~~\"\n")
    math(EXPR at "${at} + 12000")
endwhile()
file(WRITE "${OUT}" "#include \"embedded.hpp\"\nnamespace elkit::embedded {\nconst std::string_view ${NAME} =\n${pieces};\n}\n")
